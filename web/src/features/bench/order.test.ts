import { describe, expect, it } from "vitest";
import { places } from "@/testing/wheel";
import { across, inOrder } from "./order";

const four = places(2);

describe("the order of reading", () => {
  it("goes a side after the other, either first", () => {
    expect(inOrder(four, "sides")).toEqual(["R1", "R2", "L1", "L2"]);
    expect(inOrder(four, "left")).toEqual(["L1", "L2", "R1", "R2"]);
  });

  it("goes as the spokes pass", () => {
    expect(inOrder(four, "passing")).toEqual(["R1", "L1", "R2", "L2"]);
  });

  it("keeps to the quick look, and to the whole wheel while none is known", () => {
    expect(inOrder(four, "quick", ["R2", "L1"])).toEqual(["R2", "L1"]);
    expect(inOrder(four, "quick")).toEqual(["R1", "R2", "L1", "L2"]);
  });

  it.each(["sides", "left", "passing"] as const)("names each spoke once: %s", (order) => {
    const wheel = places(8, 16);
    const names = inOrder(wheel, order);
    expect(new Set(names).size).toBe(24);
    expect(names.length).toBe(24);
  });
});

describe("the spoke across", () => {
  it("has the same number where both sides count the same", () => {
    expect(across(places(18), "R7")).toBe("L7");
    expect(across(places(18), "L18")).toBe("R18");
  });

  it("is the nearest where the sides differ", () => {
    const wheel = places(4, 8);
    for (const s of wheel) {
      const other = wheel.find((o) => o.name === across(wheel, s.name));
      expect(other?.side).not.toBe(s.side);
      const gap = (o: typeof s) => Math.abs(((o.angle_deg - s.angle_deg + 540) % 360) - 180);
      const least = Math.min(...wheel.filter((o) => o.side !== s.side).map(gap));
      expect(other && gap(other)).toBeCloseTo(least);
    }
  });

  it("looks over the valve for the nearest", () => {
    const wheel = [
      { ...places(1)[0]!, name: "R1", side: "R" as const, angle_deg: 2 },
      { ...places(1)[0]!, name: "L1", side: "L" as const, angle_deg: 60 },
      { ...places(1)[0]!, name: "L2", side: "L" as const, angle_deg: 355 },
    ];
    expect(across(wheel, "R1")).toBe("L2");
  });

  it("stays where there is nothing across", () => {
    expect(across(places(4), "R9")).toBe("R9");
    expect(across([places(1)[0]!], "R1")).toBe("R1");
  });
});

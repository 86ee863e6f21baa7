import { describe, expect, it } from "vitest";
import type { Schemas } from "@/api/client";
import { startingSource } from "./instrument";
import { halfStepOf, OTHER_SOURCES, sourceText, tensionEntry } from "./sources";

const meter: Schemas["Meter"] = { id: "m1", name: "Bench meter", tables: [] };

describe("what a figure means", () => {
  it("is a reading in the meter's own units when a meter is chosen", () => {
    expect(tensionEntry("m1", meter, 20.5)).toEqual({ value: 20.5, unit: "meter", meter: "m1" });
    expect(sourceText("m1", meter)).toBe("units");
  });

  it.each(["N", "kgf", "lbf", "Hz"])("is in %s when that is chosen", (unit) => {
    expect(tensionEntry(unit, undefined, 100)).toEqual({ value: 100, unit });
    expect(sourceText(unit, undefined)).toBe(unit);
  });

  it.each([
    [1, "slack"],
    [2, "loose"],
    [3, "right"],
    [4, "tight"],
  ])("by feel, %d is %s", (digit, feel) => {
    expect(tensionEntry("feel", undefined, digit)).toEqual({ feel });
  });

  it.each([0, 5, 2.5, -1, 90])("by feel, %f is refused with the four words", (digit) => {
    expect(tensionEntry("feel", undefined, digit)).toMatch(/1 slack, 2 loose, 3 right, 4 tight/);
  });

  it("is never guessed: a meter that is gone does not turn its units into newton", () => {
    expect(tensionEntry("gone", undefined, 20)).toMatch(/Choose first/);
  });
});

describe("the source to start with", () => {
  const meters = [{ id: "m1" }, { id: "m2" }];

  it("is the one used last on this tablet", () => {
    expect(startingSource("m2", meters)).toBe("m2");
    expect(startingSource("feel", meters)).toBe("feel");
  });

  it("is the shop's first meter where nothing was used, or what was used is put away", () => {
    expect(startingSource(null, meters)).toBe("m1");
    expect(startingSource("gone", meters)).toBe("m1");
  });

  it("is newton in a shop without a meter", () => {
    expect(startingSource("gone", [])).toBe("N");
  });
});

it("steps by the meter's resolution, else by what suits the unit", () => {
  expect(halfStepOf("m1", 0.25)).toBe(0.25);
  expect(halfStepOf("kgf", undefined)).toBe(1);
  for (const { value } of OTHER_SOURCES) expect(halfStepOf(value, undefined)).toBeGreaterThan(0);
  expect(halfStepOf("gone", undefined)).toBe(10);
});

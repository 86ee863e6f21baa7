import { describe, expect, it } from "vitest";
import { attribute, drawn } from "@/testing/markup";
import { NippleCut } from "./NippleCut";
import type { Sizing } from "./useSizing";
import { dimensionName, sideName, VERDICT } from "./words";

const nipple = { length_mm: 12, head_mm: 3, slot_mm: 1 } as Sizing["nipple"];

describe("a nipple cut open", () => {
  const cut = (end_mm: number, usable = true) => drawn(<NippleCut {...{ nipple, end_mm, usable }} />);
  /** The spoke is the filled bar in the bore; the window is the tube across it. */
  const spoke = (end_mm: number, usable = true) => {
    const bars = cut(end_mm, usable).all.filter((e) => e.name === "rect");
    return { bar: bars.at(-1)!, tube: bars.find((b) => b.attributes["class"]?.startsWith("fill-tube"))! };
  };

  it("has the end inside its window from the slot's bottom to 1 mm below it, and outside elsewhere", () => {
    for (const [end, inside] of [
      [0, true],
      [-0.5, true],
      [-1, true],
      [-1.4, false],
      [0.4, false],
    ] as const) {
      const { bar, tube } = spoke(end);
      const [y, top] = [attribute(bar, "y"), attribute(tube, "y")];
      expect(y >= top - 1e-9 && y <= top + attribute(tube, "height") + 1e-9, String(end)).toBe(inside);
    }
  });

  it("is to scale: a millimetre of end is a millimetre of nipple", () => {
    const step = attribute(spoke(-1).bar, "y") - attribute(spoke(0).bar, "y");
    expect(step).toBeCloseTo(attribute(spoke(0).tube, "height"));
  });

  it("shows one that must not be used as such", () => {
    expect(spoke(-3, false).bar.attributes["class"]).toBe("fill-danger");
    expect(spoke(-0.5).bar.attributes["class"]).toBe("fill-ink");
  });

  it("stops at the picture's edges for an end that is far off", () => {
    for (const end of [-40, 40]) {
      const y = attribute(spoke(end).bar, "y");
      expect(y).toBeGreaterThanOrEqual(0);
      expect(attribute(spoke(end).bar, "height")).toBeGreaterThan(0);
    }
  });
});

describe("the words of sizing", () => {
  it("name a dimension by its field, wherever it stands", () => {
    expect(dimensionName("rim.erd_mm")).toBe("ERD");
    expect(dimensionName("hub.left.pitch_circle_mm")).toBe("flange circle");
    expect(dimensionName("hub.right.odd_mm")).toBe("hub.right.odd_mm");
  });

  it("tell the sides by mark and word", () => {
    expect([sideName("R"), sideName("L")]).toEqual(["● Right", "○ Left"]);
  });

  it("have another word for each verdict", () => {
    expect(new Set(Object.values(VERDICT)).size).toBe(Object.keys(VERDICT).length);
  });
});

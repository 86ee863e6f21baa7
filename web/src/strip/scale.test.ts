import { describe, expect, it } from "vitest";
import { closed, gutterLeft, GUTTER_RIGHT, niceRange, pathThrough, plotWidth, xOf } from "./scale";

describe("places on the strip", () => {
  it.each([320, 599, 600, 1280])("lay 0° and 360° on the two edges at %d pixels", (width) => {
    expect(xOf(0, width)).toBe(0);
    expect(xOf(360, width)).toBe(width);
    expect(xOf(180, width)).toBeCloseTo(width / 2);
  });

  it("leave the names more room on a wide screen", () => {
    expect(gutterLeft(1280)).toBeGreaterThan(gutterLeft(390));
  });

  it("show the whole rim where a finger's width or a pointer's is left for each spoke", () => {
    for (const room of [768, 1024, 1280, 1920])
      expect(plotWidth(room, 32)).toBe(room - gutterLeft(room) - GUTTER_RIGHT);
  });

  it("show a window of it on a phone, each spoke as wide as a finger", () => {
    for (const count of [16, 20, 32, 36, 48]) {
      expect(plotWidth(374, count)).toBeGreaterThan(374);
      expect(plotWidth(374, count) / count).toBeGreaterThanOrEqual(44);
    }
  });
});

describe("the range of a trace", () => {
  it("holds what is there, by the smallest step that does", () => {
    for (const most of [0, 0.1, 0.3, 0.31, 0.9, 2.4, 11, 29.9, 30]) {
      const range = niceRange(most);
      expect(range).toBeGreaterThanOrEqual(most);
      if (most > 0.3) expect(range / most).toBeLessThan(1.7);
    }
    expect(niceRange(0)).toBe(0.3);
  });

  it("holds even a rim that is past all saving", () => {
    expect(niceRange(47)).toBe(47);
  });
});

it("closes a trace with its first value at 360°", () => {
  expect(closed([0, 120, 240], [1, 2, 3])).toEqual([
    [0, 1],
    [120, 2],
    [240, 3],
    [360, 1],
  ]);
});

it("draws a path through points to a tenth of a pixel", () => {
  expect(
    pathThrough([
      [0, 1],
      [2.345, -3],
    ]),
  ).toBe("M0.0 1.0L2.3 -3.0");
  expect(pathThrough([])).toBe("");
});

import { expect, test } from "vitest";
import { rimAt, turnTo } from "./rim";

const now = { angle_deg: [5, 95, 185, 275], lateral_mm: [0, 1, 2, -1], radial_mm: [4, 4, 4, 4] };

test("the rim between two known places, also over the valve", () => {
  expect(rimAt(now, "lateral_mm", 95)).toBe(1);
  expect(rimAt(now, "lateral_mm", 50)).toBeCloseTo(0.5);
  expect(rimAt(now, "lateral_mm", 320)).toBeCloseTo(-0.5);
  expect(rimAt(now, "lateral_mm", -85)).toBe(-1);
  expect(rimAt(now, "radial_mm", 720)).toBe(4);
});

test("a wheel is turned the shorter way", () => {
  expect(turnTo(350, 10)).toBe(20);
  expect(turnTo(10, 350)).toBe(-20);
  expect(turnTo(0, 180)).toBe(-180);
});

import { expect, test } from "vitest";
import { onePerSpoke } from "./pendingMoves";
import { type Point, worstShare } from "./tradeOff";

const TIER = { name: "sound", lateral_mm: 0.5, radial_mm: 0.5, dish_mm: 0.5, tension_percent: 20 };
const POINT: Point = {
  nipples: 7,
  turns: 3,
  minutes: 6,
  chance: 0.9,
  lateral_mm: 0.1,
  radial_mm: 0.1,
  dish_mm: 0.1,
  spread_percent: 4,
  mean_n: 1000,
  proposed: true,
};

test.each([
  ["lateral_mm", 0.6, 1.2],
  ["radial_mm", 0.25, 0.5],
  ["dish_mm", -0.55, 1.1],
  ["spread_percent", 30, 1.5],
] as const)("the worst figure rules: %s", (figure, value, share) => {
  expect(worstShare({ ...POINT, [figure]: value }, TIER as never)).toBeCloseTo(share);
});

test("of a nipple that comes twice the one still to do is drawn", () => {
  const move = (key: string, state: string) => ({ key, spoke: key.split(".")[0], state }) as never;
  const drawn = (...moves: never[]) => onePerSpoke(moves).map((m) => m.key);
  expect(drawn(move("R5", "todo"), move("L2", "todo"), move("R5.2", "todo"))).toEqual(["R5", "L2"]);
  expect(drawn(move("R5", "done"), move("L2", "todo"), move("R5.2", "todo"))).toEqual(["R5.2", "L2"]);
  expect(drawn(move("R5", "done"), move("R5.2", "done"))).toEqual(["R5.2"]);
});

import { expect, test } from "vitest";
import { leftOf } from "./planned";

const move = (spoke: string, turns: number) => ({ spoke, turns, turn_from_n: 0, turn_to_n: 0, why: "" });
const left = (turned: Record<string, number>, ...moves: ReturnType<typeof move>[]) =>
  leftOf(moves, new Map(Object.entries(turned))).map(({ move: m, turns }) => `${m.spoke} ${turns}`);

test("what was turned is behind, in any order", () => {
  expect(left({}, move("R1", 0.25), move("L1", -0.5))).toEqual(["R1 0.25", "L1 -0.5"]);
  expect(left({ L1: -0.5 }, move("R1", 0.25), move("L1", -0.5))).toEqual(["R1 0.25"]);
  expect(left({ R1: 0.25, L1: -0.5 }, move("R1", 0.25), move("L1", -0.5))).toEqual([]);
});

test("what was turned otherwise asks for the difference", () => {
  expect(left({ R1: 0.5 }, move("R1", 0.25))).toEqual(["R1 -0.25"]);
  expect(left({ R1: 0.125 }, move("R1", 0.25))).toEqual(["R1 0.125"]);
});

test("a nipple that comes twice is turned twice", () => {
  const walk = [move("R1", -0.25), move("L1", 0.5), move("R1", -0.5)];
  expect(left({}, ...walk)).toEqual(["R1 -0.25", "L1 0.5", "R1 -0.5"]);
  expect(left({ R1: -0.25 }, ...walk)).toEqual(["L1 0.5", "R1 -0.5"]);
  expect(left({ R1: -0.75, L1: 0.5 }, ...walk)).toEqual([]);
});

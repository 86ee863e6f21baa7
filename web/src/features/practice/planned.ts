import type { Schemas } from "@/api/client";

/** What is left of a plan: the moves still to be made, each with the turn that is missing from what its nipple was turned. */
export interface Left {
  move: Schemas["PracticeMove"];
  turns: number;
}

const SAME = 1e-3;

/**
 * A nipple may come more than once in a walk. The moves of one are behind as far as what was turned of it says so; by hand it may
 * have been turned otherwise, then its first one that is not behind asks for the difference.
 */
export function leftOf(
  moves: readonly Schemas["PracticeMove"][],
  turned: ReadonlyMap<string, number>,
): Left[] {
  const sums: number[] = [];
  const sum = new Map<string, number>();
  for (const move of moves) {
    const there = (sum.get(move.spoke) ?? 0) + move.turns;
    sum.set(move.spoke, there);
    sums.push(there);
  }
  const behind = new Map<string, number>();
  moves.forEach((move, i) => {
    if (Math.abs((turned.get(move.spoke) ?? 0) - (sums[i] ?? 0)) < SAME) behind.set(move.spoke, i);
  });
  const asked = new Set<string>();
  return moves.flatMap((move, i) => {
    if (i <= (behind.get(move.spoke) ?? -1)) return [];
    const first = !asked.has(move.spoke);
    asked.add(move.spoke);
    return [{ move, turns: first ? (sums[i] ?? 0) - (turned.get(move.spoke) ?? 0) : move.turns }];
  });
}

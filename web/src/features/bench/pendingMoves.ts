import type { Schemas } from "@/api/client";
import type { EntryOf } from "@/write/useOutbox";

/**
 * The moves of a plan as the hands have left them: what the server has, and over it what is still on its way. A refused tick
 * does not count as done: the nipple is shown as the server has it.
 */
export function movesWith(
  moves: readonly Schemas["PlanMove"][],
  pending: ReadonlyMap<string, EntryOf<"move">>,
): Schemas["PlanMove"][] {
  return moves.map((move) => {
    const entry = pending.get(move.key);
    if (entry?.state !== "waiting") return move;
    const { state, done_turns } = entry.body;
    const turns = { done: move.turns, skipped: 0, changed: done_turns ?? null, todo: null }[state];
    return {
      ...move,
      state,
      done_turns: turns,
      done_at: state === "todo" ? null : entry.at,
      by: state === "todo" ? "" : entry.byName,
    };
  });
}

/** One move of each spoke, to be drawn: the first that is still to do, else the last. */
export function onePerSpoke(moves: readonly Schemas["PlanMove"][]): Schemas["PlanMove"][] {
  const shown = new Map<string, Schemas["PlanMove"]>();
  for (const move of moves) {
    const before = shown.get(move.spoke);
    if (!before || before.state !== "todo") shown.set(move.spoke, move);
  }
  return [...shown.values()];
}

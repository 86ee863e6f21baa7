import type { Schemas } from "@/api/client";

export type Place = Schemas["SpokePlace"];
export type Order = "sides" | "left" | "passing" | "quick";

/** The spokes in the order in which they are read: a side after the other, as they pass, or only those of a quick look. */
export function inOrder(spokes: readonly Place[], order: Order, quick: readonly string[] = []): string[] {
  if (order === "passing") return spokes.map((s) => s.name);
  if (order === "quick" && quick.length > 0) return [...quick];
  const of = (side: "R" | "L") => spokes.filter((s) => s.side === side).map((s) => s.name);
  return order === "left" ? [...of("L"), ...of("R")] : [...of("R"), ...of("L")];
}

/** The spoke beside this one on the other side: of the same number, or the nearest where the sides differ in count. */
export function across(spokes: readonly Place[], name: string): string {
  const here = spokes.find((s) => s.name === name);
  if (!here) return name;
  const twin = spokes.find((s) => s.side !== here.side && s.name.slice(1) === name.slice(1));
  if (twin && spokes.length === 2 * spokes.filter((s) => s.side === here.side).length) return twin.name;
  const gap = (s: Place) => Math.abs(((s.angle_deg - here.angle_deg + 540) % 360) - 180);
  const others = spokes.filter((s) => s.side !== here.side).sort((a, b) => gap(a) - gap(b));
  return others[0]?.name ?? name;
}

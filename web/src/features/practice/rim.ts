import type { Schemas } from "@/api/client";

type Now = Pick<Schemas["PracticeNow"], "angle_deg" | "lateral_mm" | "radial_mm">;

/** The shorter way from one angle to another, −180 to 180. */
export function turnTo(from: number, to: number): number {
  return ((((to - from) % 360) + 540) % 360) - 180;
}

/** A figure of the rim at any angle, between the two places that are known beside it. */
export function rimAt(now: Now, which: "lateral_mm" | "radial_mm", angle: number): number {
  const { angle_deg: angles } = now;
  const values = now[which];
  const count = angles.length;
  if (count === 0) return 0;
  const step = 360 / count;
  const at = ((((angle - (angles[0] ?? 0)) / step) % count) + count) % count;
  const below = Math.floor(at);
  const share = at - below;
  return (values[below % count] ?? 0) * (1 - share) + (values[(below + 1) % count] ?? 0) * share;
}

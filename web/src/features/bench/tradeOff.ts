import type { Schemas } from "@/api/client";

export type Point = Schemas["PlanChoice"];

/** The worst figure to expect, as a share of what the tier allows: 1 lies on its limit. */
export function worstShare(point: Point, tier: Schemas["TradeOff"]["tier"]): number {
  return Math.max(
    point.lateral_mm / tier.lateral_mm,
    point.radial_mm / tier.radial_mm,
    Math.abs(point.dish_mm) / tier.dish_mm,
    point.spread_percent / tier.tension_percent,
  );
}

import type { Schemas } from "@/api/client";

export type WheelState = Schemas["State"];
export type Trace = Schemas["Trace"];
/** A turn to be drawn: one of each spoke. */
export type Move = Pick<Schemas["PlanMove"], "spoke" | "turns" | "fraction" | "state">;

export type LaneName = "lateral" | "radial" | "tension" | "turns";

import type { Schemas } from "@/api/client";

export type WheelState = Schemas["State"];
export type Trace = Schemas["Trace"];
export type Move = Schemas["PlanMove"];

export type LaneName = "lateral" | "radial" | "tension" | "turns";

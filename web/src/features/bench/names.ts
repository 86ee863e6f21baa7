import type { Schemas } from "@/api/client";

export const SET_NAMES: Record<Schemas["SetStageEnum"], string> = {
  as_found: "As found",
  after_pass: "After a pass",
  as_left: "As left",
};

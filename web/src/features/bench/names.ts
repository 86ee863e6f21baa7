import { t as say } from "@lingui/core/macro";
import type { Schemas } from "@/api/client";

export const SET_NAMES: Record<Schemas["SetStageEnum"], string> = {
  as_found: say`As found`,
  after_pass: say`After a pass`,
  as_left: say`As left`,
};

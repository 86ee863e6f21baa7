import { t as say } from "@lingui/core/macro";
import type { Schemas } from "@/api/client";

export function stageName(stages: readonly Schemas["Stage"][], key: string): string {
  return key === "done" ? say`Handed back` : (stages.find((s) => s.key === key)?.name ?? key);
}

export function stageIndex(stages: readonly Schemas["Stage"][], key: string): number {
  return key === "done" ? stages.length : stages.findIndex((s) => s.key === key);
}

export const WAITING_ON: Record<string, string> = {
  customer: say`waits for the customer`,
  parts: say`waits for parts`,
  owner: say`waits for the owner`,
};

import { t as say } from "@lingui/core/macro";

/** What kind of device a session is on, by what its browser says of itself. */
export function deviceWords(agent: string): string {
  if (!agent.includes("Mozilla/")) return agent ? say`A program` : say`Unknown device`;
  if (/\bTablet\b|iPad/.test(agent) || (agent.includes("Android") && !agent.includes("Mobile")))
    return say`A tablet`;
  if (/Mobile|Android/.test(agent)) return say`A phone`;
  return say`A computer`;
}

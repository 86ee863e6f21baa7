import { t as say } from "@lingui/core/macro";

export const ROLES: Record<string, string> = {
  owner: say`owner`,
  mechanic: say`bench mechanic`,
  desk: say`front desk`,
  apprentice: say`apprentice`,
};

/** What not everybody at the bench does. */
export const SKILLS: Record<string, string> = {
  truing: say`truing to sound`,
  fine: say`truing to fine and race`,
  lacing: say`lacing and building`,
  hubs: say`hubs`,
};

import { t as say } from "@lingui/core/macro";
import { useQuery } from "@tanstack/react-query";
import { ask } from "@/api/queries";
import { useHere } from "./useLive";

/** Which screen of a job an address is, as it is said of somebody who has it open. */
function screenOf(at: string): string {
  const screens: Record<string, string> = {
    readings: say`the readings`,
    state: say`the state`,
    plan: say`the plan`,
    live: say`the truing`,
    lacing: say`the lacing`,
    strip: say`taking apart`,
    replace: say`the new spoke`,
    checks: say`the checks`,
    decide: say`the decision`,
    refit: say`the refit`,
    "sign-off": say`the hand-back`,
  };
  return screens[at.split("/")[0] ?? ""] ?? say`this wheel`;
}

/** Who else is at this wheel just now. */
export function HereLine() {
  const here = useHere();
  const session = useQuery(ask.session());
  if (here.length === 0) return null;
  const lines = new Map<string, string>();
  for (const { person, name, at } of here) {
    const screen = screenOf(at);
    const line =
      person === session.data?.id
        ? say`You have ${screen} open on another tablet`
        : say`${name} has ${screen} open`;
    lines.set(line, line);
  }
  return (
    <p
      role="status"
      className="flex items-center gap-2 rounded-full border border-line bg-face px-3 text-sm font-semibold print:hidden"
    >
      <span aria-hidden className="size-2.5 rounded-full border-2 border-current" />
      {[...lines.values()].join(" · ")}
    </p>
  );
}

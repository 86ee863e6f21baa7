import type { UseQueryResult } from "@tanstack/react-query";
import { isSessionOver } from "@/api/problem";
import { Failed } from "./Failed";
import { Waiting } from "./Waiting";

type Asked = Pick<UseQueryResult<unknown>, "data" | "isError" | "error" | "refetch">;

/**
 * What stands in a screen's place until its questions are answered: that they are on their way, or how they failed and what to
 * do. What was answered once stays on the screen when asking anew fails, since the mechanic is in the middle of it.
 */
export function NotYet({ of, what }: { of: readonly Asked[]; what: string }) {
  const missing = of.filter((q) => q.data === undefined);
  // A session that is over is asked for in place, over the screen, by the shell.
  const failed = missing.find((q) => q.isError && !isSessionOver(q.error));
  const again = () => {
    for (const q of missing) void q.refetch();
  };
  if (failed) return <Failed error={failed.error} onAgain={again} />;
  return <Waiting what={what} onAgain={again} />;
}

/** A question beside the main ones: nothing while it goes well, a line where it failed and there is nothing to show. */
export function IfFailed({ of }: { of: Asked }) {
  if (of.data !== undefined || !of.isError || isSessionOver(of.error)) return null;
  return <Failed small error={of.error} onAgain={() => void of.refetch()} />;
}

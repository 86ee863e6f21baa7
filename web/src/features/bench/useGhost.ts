import { t as say } from "@lingui/core/macro";
import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { ask } from "@/api/queries";
import { askRecord } from "@/api/recordQueries";
import type { Over } from "@/strip/looks";
import type { WheelState } from "@/strip/types";

/** What lies thin behind a set: the readings as found of this visit, for the first set how the wheel left the last time. */
export function useGhost(jobId: string, setId: string, state: WheelState | undefined) {
  const sets = useQuery(ask.sets(jobId));
  const found = sets.data?.find((set) => set.stage === "as_found" && set.id !== setId);
  const first = sets.data !== undefined && !found;
  const comeback = useQuery({ ...askRecord.comeback(jobId), enabled: first });
  const behind = found?.id ?? (first ? comeback.data?.left_set : undefined);
  const ghost = useQuery({ ...ask.state(behind ?? ""), enabled: Boolean(behind) });
  // Laced otherwise since, nothing lies in the same column.
  const alike = ghost.data !== undefined && ghost.data.spokes.length === state?.spokes.length;
  // The same ghost is the same object: the strip is not drawn anew for it.
  const over = useMemo((): Over[] => {
    if (!alike) return [];
    const { trace, spokes } = ghost.data;
    return [{ look: "ghost", trace, tension_n: spokes.map((spoke) => spoke.tension_n) }];
  }, [alike, ghost.data]);
  if (!alike) return { over, said: "" };
  return {
    over,
    said: found ? say`as found` : say`as it left, job ${comeback.data?.left_number ?? ""}`,
  };
}

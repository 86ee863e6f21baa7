import { useMutation, useQueryClient } from "@tanstack/react-query";
import { answer, client, type Schemas, writeKey } from "@/api/client";
import { sentenceOf } from "@/api/problem";

type Mark = { spoke: string; state: Schemas["PlanMoveStateEnum"]; done_turns?: number };

/** Tick nipples off at once on screen, and send it; the key stays the same while the network is tried again. */
export function useMarkMove(plan: Schemas["Plan"]) {
  const queries = useQueryClient();
  const key = ["plan", plan.id];
  const put = (spoke: string, change: Partial<Schemas["PlanMove"]>) =>
    queries.setQueryData<Schemas["Plan"]>(
      key,
      (old) => old && { ...old, moves: old.moves.map((m) => (m.spoke === spoke ? { ...m, ...change } : m)) },
    );
  const send = useMutation({
    mutationFn: ({ spoke, state, done_turns, writeAs }: Mark & { writeAs: string }) =>
      answer(
        client.PUT("/api/v1/plans/{plan_id}/moves/{spoke}", {
          params: { path: { plan_id: plan.id, spoke } },
          headers: { "Idempotency-Key": writeAs },
          body: done_turns === undefined ? { state } : { state, done_turns },
        }),
      ),
    retry: 5,
    retryDelay: (n) => Math.min(500 * 2 ** n, 8000),
    // One after another: what was ticked first is written first.
    scope: { id: `plan-${plan.id}` },
    onSuccess: (move) => put(move.spoke, { state: move.state, done_turns: move.done_turns, by: move.by }),
    onError: () => void queries.invalidateQueries({ queryKey: key }),
  });
  const mark = (spoke: string, state: Mark["state"], turns?: number) => {
    put(spoke, { state });
    send.mutate({ spoke, state, writeAs: writeKey(), ...(turns === undefined ? {} : { done_turns: turns }) });
  };
  return {
    mark,
    message: send.isError
      ? `Not saved: ${sentenceOf(send.error)}`
      : send.failureCount > 0
        ? "The server cannot be reached, trying again"
        : "",
  };
}

import { infiniteQueryOptions } from "@tanstack/react-query";
import { answer, client } from "./client";
import { keys } from "./keys";

/** What is asked for in pages, the newest first: each begins behind the last row of the one before. */
export const pagesOf = {
  ledger: (part_id: string) =>
    infiniteQueryOptions({
      queryKey: keys.ledger(part_id),
      queryFn: ({ pageParam }) =>
        answer(
          client.GET("/api/v1/stock/parts/{part_id}/movements", {
            params: { path: { part_id }, query: pageParam ? { before: pageParam } : {} },
          }),
        ),
      initialPageParam: "",
      getNextPageParam: (last) => (last.earlier ? last.movements.at(-1)?.id : undefined),
    }),
  /** A job's whole history: the newest events come with the job itself. */
  events: (job_id: string) =>
    infiniteQueryOptions({
      queryKey: keys.ofJob(job_id, "events"),
      queryFn: ({ pageParam }) =>
        answer(
          client.GET("/api/v1/jobs/{job_id}/events", {
            params: { path: { job_id }, query: pageParam ? { before: pageParam } : {} },
          }),
        ),
      initialPageParam: "",
      getNextPageParam: (last) => (last.earlier ? last.events.at(-1)?.id : undefined),
    }),
};

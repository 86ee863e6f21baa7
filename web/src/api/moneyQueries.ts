import { queryOptions } from "@tanstack/react-query";
import { answer, client } from "./client";
import { keys } from "./keys";

/** What screens ask about money. */
export const askMoney = {
  quote: (job_id: string, chosen: readonly string[], warning: string) =>
    queryOptions({
      queryKey: keys.ofJob(job_id, "quote", chosen, warning),
      queryFn: () =>
        answer(
          client.GET("/api/v1/jobs/{job_id}/quote", {
            params: { path: { job_id }, query: { chosen: chosen.join(","), warning } },
          }),
        ),
    }),
  account: (job_id: string) =>
    queryOptions({
      queryKey: keys.ofJob(job_id, "account"),
      queryFn: () => answer(client.GET("/api/v1/jobs/{job_id}/account", { params: { path: { job_id } } })),
    }),
} as const;

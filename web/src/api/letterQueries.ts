import { queryOptions } from "@tanstack/react-query";
import { answer, client, type Schemas } from "./client";
import { keys } from "./keys";

/** What screens ask about links and letters to customers. */
export const askLetters = {
  links: (job_id: string) =>
    queryOptions({
      queryKey: keys.ofJob(job_id, "links"),
      queryFn: () => answer(client.GET("/api/v1/jobs/{job_id}/links", { params: { path: { job_id } } })),
    }),
  letter: (job_id: string, kind: Schemas["LetterKindEnum"], link: string | null) =>
    queryOptions({
      queryKey: keys.ofJob(job_id, "letter", kind, link),
      queryFn: () =>
        answer(
          client.GET("/api/v1/jobs/{job_id}/letter", {
            params: { path: { job_id }, query: { kind, ...(link ? { link } : {}) } },
          }),
        ),
    }),
  outbox: () =>
    queryOptions({
      queryKey: keys.letters(),
      queryFn: () => answer(client.GET("/api/v1/letters")),
      refetchInterval: 5_000,
    }),
} as const;

import { queryOptions } from "@tanstack/react-query";
import { answer, client } from "./client";
import { keys } from "./keys";

/** What screens ask about practice. */
export const askPractice = {
  ladder: () =>
    queryOptions({ queryKey: keys.practice(), queryFn: () => answer(client.GET("/api/v1/practice")) }),
  learners: () =>
    queryOptions({
      queryKey: keys.learners(),
      queryFn: () => answer(client.GET("/api/v1/practice/learners")),
    }),
  /** A lesson is worked out once, and never another. */
  lesson: (of: string) =>
    queryOptions({
      queryKey: keys.practiceLesson(of),
      queryFn: () => answer(client.GET("/api/v1/practice/lesson", { params: { query: { of } } })),
      staleTime: Infinity,
    }),
  run: (run_id: string) =>
    queryOptions({
      queryKey: keys.practiceRun(run_id),
      queryFn: () => answer(client.GET("/api/v1/practice/runs/{run_id}", { params: { path: { run_id } } })),
    }),
  /** The strip of what was read; `version` rises with each reading. */
  state: (run_id: string, version: number) =>
    queryOptions({
      queryKey: keys.practiceState(run_id, version),
      queryFn: () =>
        answer(client.GET("/api/v1/practice/runs/{run_id}/state", { params: { path: { run_id } } })),
      placeholderData: (before) => before,
    }),
} as const;

import { useMutation, useQueryClient } from "@tanstack/react-query";
import { answer, client, type Schemas, writeKey } from "@/api/client";

/** Writes to a job's condition; each answers with the whole condition as it then stands. */
export function useCondition(jobId: string) {
  const queries = useQueryClient();
  const head = () => ({ headers: { "Idempotency-Key": writeKey() } });
  const at = { params: { path: { job_id: jobId } } };
  const onSuccess = (found: Schemas["Condition"]) => {
    queries.setQueryData(["condition", jobId], found);
    void queries.invalidateQueries({ queryKey: ["options", jobId] });
    void queries.invalidateQueries({ queryKey: ["job", jobId] });
    void queries.invalidateQueries({ queryKey: ["comparison", jobId] });
    void queries.invalidateQueries({ queryKey: ["diagnosis", jobId] });
  };
  return {
    mark: useMutation({
      mutationFn: (body: Schemas["NewMarkRequest"]) =>
        answer(client.POST("/api/v1/jobs/{job_id}/marks", { ...at, ...head(), body })),
      onSuccess,
    }),
    endMark: useMutation({
      mutationFn: ({ id, ...body }: Schemas["EndMarkRequest"] & { id: string }) =>
        answer(
          client.POST("/api/v1/jobs/{job_id}/marks/{mark_id}/end", {
            params: { path: { job_id: jobId, mark_id: id } },
            ...head(),
            body,
          }),
        ),
      onSuccess,
    }),
    broke: useMutation({
      mutationFn: (body: Schemas["NewBreakRequest"]) =>
        answer(client.POST("/api/v1/jobs/{job_id}/breaks", { ...at, ...head(), body })),
      onSuccess,
    }),
    endBreak: useMutation({
      mutationFn: ({ id, note }: { id: string; note: string }) =>
        answer(
          client.POST("/api/v1/jobs/{job_id}/breaks/{break_id}/end", {
            params: { path: { job_id: jobId, break_id: id } },
            ...head(),
            body: { note },
          }),
        ),
      onSuccess,
    }),
    frame: useMutation({
      mutationFn: (body: Schemas["NewFrameCheckRequest"]) =>
        answer(client.POST("/api/v1/jobs/{job_id}/frame-checks", { ...at, ...head(), body })),
      onSuccess,
    }),
  };
}

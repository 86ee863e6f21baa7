import { useWrite } from "@/write/useWrite";
import { keys, touches } from "@/api/keys";
import { answer, client, type Schemas } from "@/api/client";

/** Writes to a job's condition; each answers with the whole condition as it then stands. */
export function useCondition(jobId: string) {
  const at = { params: { path: { job_id: jobId } } };
  const fills = () => keys.ofJob(jobId, "condition");
  return {
    mark: useWrite({
      touches: touches.job(jobId),
      send: (body: Schemas["NewMarkRequest"], head) =>
        answer(client.POST("/api/v1/jobs/{job_id}/marks", { ...at, ...head, body })),
      fills,
    }),
    endMark: useWrite({
      touches: touches.job(jobId),
      send: ({ id, ...body }: Schemas["EndMarkRequest"] & { id: string }, head) =>
        answer(
          client.POST("/api/v1/jobs/{job_id}/marks/{mark_id}/end", {
            params: { path: { job_id: jobId, mark_id: id } },
            ...head,
            body,
          }),
        ),
      fills,
    }),
    broke: useWrite({
      touches: touches.job(jobId),
      send: (body: Schemas["NewBreakRequest"], head) =>
        answer(client.POST("/api/v1/jobs/{job_id}/breaks", { ...at, ...head, body })),
      fills,
    }),
    endBreak: useWrite({
      touches: touches.job(jobId),
      send: ({ id, note }: { id: string; note: string }, head) =>
        answer(
          client.POST("/api/v1/jobs/{job_id}/breaks/{break_id}/end", {
            params: { path: { job_id: jobId, break_id: id } },
            ...head,
            body: { note },
          }),
        ),
      fills,
    }),
    frame: useWrite({
      touches: touches.job(jobId),
      send: (body: Schemas["NewFrameCheckRequest"], head) =>
        answer(client.POST("/api/v1/jobs/{job_id}/frame-checks", { ...at, ...head, body })),
      fills,
    }),
  };
}

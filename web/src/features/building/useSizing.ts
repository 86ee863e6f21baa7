import { useWrite } from "@/write/useWrite";
import { touches } from "@/api/keys";
import { answer, client, type Schemas } from "@/api/client";

/** Writes to a job's spokes and kit; every figure that follows is fetched anew. */
export function useSizing(jobId: string) {
  const at = { params: { path: { job_id: jobId } } };
  return {
    choose: useWrite({
      touches: [...touches.job(jobId), ...touches.stock()],
      send: (body: Schemas["ChooseRequest"], head) =>
        answer(client.POST("/api/v1/jobs/{job_id}/sizing/choice", { ...at, ...head, body })),
    }),
    old: useWrite({
      touches: [...touches.job(jobId), ...touches.stock()],
      send: (body: Schemas["OldSpokeInRequest"], head) =>
        answer(client.POST("/api/v1/jobs/{job_id}/sizing/old-spokes", { ...at, ...head, body })),
    }),
    kit: useWrite({
      touches: [...touches.job(jobId), ...touches.stock()],
      send: (body: Schemas["KitInRequest"], head) =>
        answer(client.POST("/api/v1/jobs/{job_id}/sizing/kit", { ...at, ...head, body })),
    }),
    move: useWrite({
      touches: [...touches.job(jobId), ...touches.stock()],
      send: ({ part, ...body }: Schemas["MoveInRequest"] & { part: string }, head) =>
        answer(
          client.POST("/api/v1/stock/parts/{part_id}/movements", {
            params: { path: { part_id: part } },
            ...head,
            body: { ...body, job: jobId },
          }),
        ),
    }),
  };
}

export type Sizing = Schemas["Sizing"];
export type SizingSide = Schemas["SizingSide"];

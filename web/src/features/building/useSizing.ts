import { useMutation, useQueryClient } from "@tanstack/react-query";
import { answer, client, type Schemas, writeKey } from "@/api/client";

/** Writes to a job's spokes and kit; every figure that follows is fetched anew. */
export function useSizing(jobId: string) {
  const queries = useQueryClient();
  const head = () => ({ headers: { "Idempotency-Key": writeKey() } });
  const at = { params: { path: { job_id: jobId } } };
  // One after the other, so that quick hands lose nothing.
  const scope = { id: `sizing ${jobId}` };
  const onSuccess = async () => {
    await queries.invalidateQueries({ queryKey: ["sizing", jobId] });
    for (const key of ["stock", "replacing", "lacing", "condition", "job", "rail"])
      void queries.invalidateQueries({ queryKey: [key] });
  };
  return {
    choose: useMutation({
      scope,
      mutationFn: (body: Schemas["ChooseRequest"]) =>
        answer(client.POST("/api/v1/jobs/{job_id}/sizing/choice", { ...at, ...head(), body })),
      onSuccess,
    }),
    old: useMutation({
      scope,
      mutationFn: (body: Schemas["OldSpokeInRequest"]) =>
        answer(client.POST("/api/v1/jobs/{job_id}/sizing/old-spokes", { ...at, ...head(), body })),
      onSuccess,
    }),
    kit: useMutation({
      scope,
      mutationFn: (body: Schemas["KitInRequest"]) =>
        answer(client.POST("/api/v1/jobs/{job_id}/sizing/kit", { ...at, ...head(), body })),
      onSuccess,
    }),
    move: useMutation({
      mutationFn: ({ part, ...body }: Schemas["MoveInRequest"] & { part: string }) =>
        answer(
          client.POST("/api/v1/stock/parts/{part_id}/movements", {
            params: { path: { part_id: part } },
            ...head(),
            body: { ...body, job: jobId },
          }),
        ),
      onSuccess,
    }),
  };
}

export type Sizing = Schemas["Sizing"];
export type SizingSide = Schemas["SizingSide"];

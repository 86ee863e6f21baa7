import { useMutation, useQueryClient } from "@tanstack/react-query";
import { answer, client, type Schemas, writeKey } from "@/api/client";

/** Writes to the stock; every figure that follows is fetched anew. */
export function useStock() {
  const queries = useQueryClient();
  const head = () => ({ headers: { "Idempotency-Key": writeKey() } });
  const onSuccess = async () => {
    await queries.invalidateQueries({ queryKey: ["stock"] });
    for (const key of ["sizing", "rail", "job"]) void queries.invalidateQueries({ queryKey: [key] });
  };
  return {
    add: useMutation({
      mutationFn: (body: Schemas["PartInRequest"]) =>
        answer(client.POST("/api/v1/stock/parts", { ...head(), body })),
      onSuccess,
    }),
    change: useMutation({
      mutationFn: ({ id, ...body }: Schemas["PatchedPartChangeRequest"] & { id: string; version: number }) =>
        answer(
          client.PATCH("/api/v1/stock/parts/{part_id}", {
            params: { path: { part_id: id } },
            ...head(),
            body,
          }),
        ),
      onSuccess,
    }),
    move: useMutation({
      mutationFn: ({ part, ...body }: Schemas["MoveInRequest"] & { part: string }) =>
        answer(
          client.POST("/api/v1/stock/parts/{part_id}/movements", {
            params: { path: { part_id: part } },
            ...head(),
            body,
          }),
        ),
      onSuccess,
    }),
    send: useMutation({
      mutationFn: (body: Schemas["SendOrderRequest"]) =>
        answer(client.POST("/api/v1/stock/orders", { ...head(), body })),
      onSuccess,
    }),
    receive: useMutation({
      mutationFn: ({ id, lines }: Schemas["ReceiveRequest"] & { id: string }) =>
        answer(
          client.POST("/api/v1/stock/orders/{order_id}/receive", {
            params: { path: { order_id: id } },
            ...head(),
            body: { lines },
          }),
        ),
      onSuccess,
    }),
    cancel: useMutation({
      mutationFn: (id: string) =>
        answer(
          client.POST("/api/v1/stock/orders/{order_id}/cancel", {
            params: { path: { order_id: id } },
            ...head(),
          }),
        ),
      onSuccess,
    }),
    machine: useMutation({
      mutationFn: (cuts_spokes: boolean) =>
        answer(client.PUT("/api/v1/stock/machine", { ...head(), body: { cuts_spokes } })),
      onSuccess,
    }),
    take_in: useMutation({
      mutationFn: (text: string) =>
        answer(client.POST("/api/v1/stock/library/import", { ...head(), body: { text } })),
      onSuccess,
    }),
  };
}

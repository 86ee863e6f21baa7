import { useWrite } from "@/write/useWrite";
import { touches } from "@/api/keys";
import { answer, client, type Schemas } from "@/api/client";

/** Writes to the stock; every figure that follows is fetched anew. */
export function useStock() {
  return {
    add: useWrite({
      touches: touches.stock(),
      send: (body: Schemas["PartInRequest"], head) =>
        answer(client.POST("/api/v1/stock/parts", { ...head, body })),
    }),
    change: useWrite({
      touches: touches.stock(),
      send: ({ id, ...body }: Schemas["PatchedPartChangeRequest"] & { id: string; version: number }, head) =>
        answer(
          client.PATCH("/api/v1/stock/parts/{part_id}", {
            params: { path: { part_id: id } },
            ...head,
            body,
          }),
        ),
    }),
    move: useWrite({
      touches: touches.stock(),
      send: ({ part, ...body }: Schemas["MoveInRequest"] & { part: string }, head) =>
        answer(
          client.POST("/api/v1/stock/parts/{part_id}/movements", {
            params: { path: { part_id: part } },
            ...head,
            body,
          }),
        ),
    }),
    send: useWrite({
      touches: touches.stock(),
      send: (body: Schemas["SendOrderRequest"], head) =>
        answer(client.POST("/api/v1/stock/orders", { ...head, body })),
    }),
    receive: useWrite({
      touches: touches.stock(),
      send: ({ id, lines }: Schemas["ReceiveRequest"] & { id: string }, head) =>
        answer(
          client.POST("/api/v1/stock/orders/{order_id}/receive", {
            params: { path: { order_id: id } },
            ...head,
            body: { lines },
          }),
        ),
    }),
    cancel: useWrite({
      touches: touches.stock(),
      send: (id: string, head) =>
        answer(
          client.POST("/api/v1/stock/orders/{order_id}/cancel", {
            params: { path: { order_id: id } },
            ...head,
          }),
        ),
    }),
    machine: useWrite({
      touches: touches.stock(),
      send: (cuts_spokes: boolean, head) =>
        answer(client.PUT("/api/v1/stock/machine", { ...head, body: { cuts_spokes } })),
    }),
    take_in: useWrite({
      touches: touches.stock(),
      send: (text: string, head) =>
        answer(client.POST("/api/v1/stock/library/import", { ...head, body: { text } })),
    }),
  };
}

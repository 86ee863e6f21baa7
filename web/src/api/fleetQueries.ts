import { queryOptions } from "@tanstack/react-query";
import { answer, client } from "./client";
import { keys } from "./keys";

/** What screens ask about lots. */
export const askFleet = {
  lots: () => queryOptions({ queryKey: keys.lots(), queryFn: () => answer(client.GET("/api/v1/lots")) }),
  lot: (lot_id: string) =>
    queryOptions({
      queryKey: keys.lot(lot_id),
      queryFn: () => answer(client.GET("/api/v1/lots/{lot_id}", { params: { path: { lot_id } } })),
    }),
} as const;

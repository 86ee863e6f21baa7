import { answer, client, type Schemas } from "@/api/client";

/** What a hand or an eye says of one nipple. */
export type Deed =
  | { turned: { spoke: string; turns: number } }
  | { mend: { spoke: string; turns: number } }
  | { takeBack: true }
  | { clear: true };

export function sendDeed(
  deed: Deed,
  path: { plan_id: string },
  version: number,
  head: object,
): Promise<Schemas["LiveStep"]> {
  const at = { params: { path }, ...head };
  if ("turned" in deed)
    return answer(
      client.POST("/api/v1/plans/{plan_id}/live/turned", { ...at, body: { version, ...deed.turned } }),
    );
  if ("mend" in deed)
    return answer(
      client.POST("/api/v1/plans/{plan_id}/live/mend", { ...at, body: { version, ...deed.mend } }),
    );
  if ("takeBack" in deed)
    return answer(client.POST("/api/v1/plans/{plan_id}/live/take-back", { ...at, body: { version } }));
  return answer(
    client.POST("/api/v1/plans/{plan_id}/live/told", {
      ...at,
      body: { version, kind: "lateral", clear: true },
    }),
  );
}

import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import type { Schemas } from "@/api/client";
import { ask } from "@/api/queries";
import { type RefusedReading, useOutbox, type Waiting } from "./outbox";

export type Kind = Schemas["ReadingKindEnum"];

export interface Shown {
  text: string;
  state: "saved" | "waiting" | "refused";
  message?: string;
  at?: string;
}

/** What stands at each place of a set: what the server has, over it what is still on its way or was refused. */
export function useReadings(setId: string): {
  pending: boolean;
  at: (kind: Kind, spoke: string) => Shown | undefined;
  count: number;
  waiting: number;
} {
  const set = useQuery(ask.set(setId));
  const { waiting, refused } = useOutbox();
  const shown = useMemo(
    () => shownReadings(setId, set.data?.readings ?? [], waiting, refused),
    [set.data, waiting, refused, setId],
  );
  return {
    pending: set.isPending,
    at: (kind, spoke) => shown.get(`${kind} ${spoke}`),
    count: [...shown.values()].filter((s) => s.state === "saved").length,
    waiting: waiting.filter((w) => w.setId === setId).length,
  };
}

/** By "kind spoke": what is refused stands over what is saved, what is on its way over both. */
export function shownReadings(
  setId: string,
  saved: readonly Schemas["Reading"][],
  waiting: readonly Waiting[],
  refused: readonly RefusedReading[],
): Map<string, Shown> {
  const map = new Map<string, Shown>();
  for (const r of saved) {
    map.set(`${r.kind} ${r.spoke}`, {
      text: enteredText(r.entered as Record<string, unknown>, r.value),
      state: "saved",
      at: r.created_at,
    });
  }
  for (const { waiting: of, message } of refused) {
    if (of.setId !== setId) continue;
    map.set(`${of.body.kind} ${of.body.spoke ?? ""}`, { text: bodyText(of.body), state: "refused", message });
  }
  for (const w of waiting) {
    if (w.setId !== setId) continue;
    map.set(`${w.body.kind} ${w.body.spoke ?? ""}`, { text: bodyText(w.body), state: "waiting" });
  }
  return map;
}

function enteredText(entered: Record<string, unknown>, value: number): string {
  const repeats = entered["repeats"];
  if (Array.isArray(repeats) && repeats.length > 1) {
    const left = Array.isArray(entered["outliers"]) ? entered["outliers"].length : 0;
    return `${value.toFixed(entered["kind"] === "tension" ? 0 : 2)}, mean of ${repeats.length - left}${left ? ` (${left} left out)` : ""}`;
  }
  if (typeof entered["feel"] === "string") return entered["feel"];
  if (entered["unit"] === "Hz") return `${String(entered["value"])} Hz`;
  if (typeof entered["value"] === "number") return String(entered["value"]);
  return value.toFixed(2);
}

function bodyText(body: Schemas["ReadingEntryRequest"]): string {
  if (body.kind !== "dish") return body.feel ?? String(body.value ?? "");
  const word = (side: Schemas["SideEnum"] | undefined) => (side === "R" ? "right" : "left");
  if (body.method === "flip") return "flipped";
  if (body.method === "stand") return `${body.offset_mm} mm to the ${word(body.side)}`;
  return `${body.gap_mm} mm gap ${word(body.gap_side)}`;
}

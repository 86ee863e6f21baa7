import { t as say } from "@lingui/core/macro";
import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import type { Schemas } from "@/api/client";
import { ask } from "@/api/queries";
import { type EntryOf, useEntries } from "@/write/useOutbox";
import { figure } from "@/ui/number";

export type Kind = Schemas["ReadingKindEnum"];

export interface Shown {
  text: string;
  state: "saved" | "waiting" | "refused";
  message?: string;
  at?: string;
  /** What the figure was entered in: it is not that of the source chosen now. */
  unit?: string;
  /** What it is the mean of, as read one after another: those that count, and those left out. */
  repeats?: { kept: string[]; leftOut: string[] };
}

/** What stands at each place of a set: what the server has, over it what is still on its way or was refused. */
export function useReadings(setId: string): {
  pending: boolean;
  at: (kind: Kind, spoke: string) => Shown | undefined;
  count: number;
  waiting: number;
} {
  const set = useQuery(ask.set(setId));
  const entries = useEntries("reading", { set_id: setId });
  const shown = useMemo(() => shownReadings(set.data?.readings ?? [], entries), [set.data, entries]);
  return {
    pending: set.isPending,
    at: (kind, spoke) => shown.get(`${kind} ${spoke}`),
    count: [...shown.values()].filter((s) => s.state === "saved").length,
    waiting: entries.filter((e) => e.state === "waiting").length,
  };
}

/** By "kind spoke": what is refused stands over what is saved, what is on its way over both. */
export function shownReadings(
  saved: readonly Schemas["Reading"][],
  entries: readonly EntryOf<"reading">[],
): Map<string, Shown> {
  const map = new Map<string, Shown>();
  for (const r of saved) {
    map.set(`${r.kind} ${r.spoke}`, {
      text: enteredText(r.kind, r.entered as Record<string, unknown>, r.value),
      state: "saved",
      at: r.created_at,
      ...unitOf(r.kind, (r.entered as Record<string, unknown>)["unit"]),
      ...repeatsOf(r.kind, r.entered as Record<string, unknown>),
    });
  }
  const put = (state: "refused" | "waiting") => {
    for (const e of entries) {
      if (e.state !== state) continue;
      map.set(`${e.body.kind} ${e.body.spoke ?? ""}`, {
        text: bodyText(e.body),
        state,
        ...unitOf(e.body.kind, e.body.unit),
        ...(e.refusal ? { message: e.refusal.message } : {}),
      });
    }
  };
  put("refused");
  put("waiting");
  return map;
}

function unitOf(kind: string, unit: unknown): { unit?: string } {
  if (kind !== "tension" || typeof unit !== "string") return {};
  return { unit: unit === "meter" ? say`units` : unit };
}

function enteredText(kind: string, entered: Record<string, unknown>, value: number): string {
  if (repeated(entered)) return figure(value, kind === "tension" ? 0 : 2);
  if (typeof entered["feel"] === "string") return entered["feel"];
  if (entered["unit"] === "Hz") return say`${String(entered["value"])} Hz`;
  if (typeof entered["value"] === "number") return String(entered["value"]);
  return figure(value, 2);
}

function repeated(entered: Record<string, unknown>): number[] | undefined {
  const values = entered["repeats"];
  return Array.isArray(values) && values.length > 1 ? (values as number[]) : undefined;
}

/** Repeats are joined in newtons, whatever the instrument shows. */
function repeatsOf(kind: string, entered: Record<string, unknown>): Pick<Shown, "unit" | "repeats"> {
  const values = repeated(entered);
  if (!values) return {};
  const outliers = new Set(Array.isArray(entered["outliers"]) ? (entered["outliers"] as number[]) : []);
  const said = (wanted: boolean) =>
    values.filter((_, at) => outliers.has(at) === wanted).map((v) => figure(v, kind === "tension" ? 0 : 2));
  return {
    ...(kind === "tension" ? { unit: "N" } : {}),
    repeats: { kept: said(false), leftOut: said(true) },
  };
}

function bodyText(body: Schemas["ReadingEntryRequest"]): string {
  if (body.kind !== "dish") return body.feel ?? String(body.value ?? "");
  const word = (side: Schemas["SideEnum"] | undefined) => (side === "R" ? say`right` : say`left`);
  if (body.method === "flip") return "flipped";
  if (body.method === "stand") return say`${body.offset_mm ?? 0} mm to the ${word(body.side)}`;
  return say`${body.gap_mm ?? 0} mm gap ${word(body.gap_side)}`;
}

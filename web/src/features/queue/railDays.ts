import { calendarDay, dayOf } from "@/ui/when";
import { t as say } from "@lingui/core/macro";
import type { Schemas } from "@/api/client";

export type Hanging = Schemas["Hanging"];

/** What hangs on one hook: a wheel, or a customer's lot of several that are due on one day. */
export interface Hung {
  key: string;
  wheels: Hanging[];
}

export interface RailDay {
  /** "2026-11-26" in the shop, "past" or "none". */
  key: string;
  title: string;
  hung: Hung[];
  benchMin: number | null;
  workMin: number | null;
}

/** So many wheels of one customer on one day are a lot, and hang on one hook. */
export const LOT_FROM = 3;

/** The wheels by the shop's day of their promise: what is overdue first, then day by day, then what has no promise. */
export function railDays(
  hanging: readonly Hanging[],
  now: Date,
  days: readonly Schemas["Day"][] = [],
): RailDay[] {
  const today = dayOf(now);
  const found = new Map<string, Hanging[]>();
  for (const h of hanging) {
    const day = h.job.promised_at ? dayOf(new Date(h.job.promised_at)) : "none";
    const key = day !== "none" && day < today ? "past" : day;
    found.set(key, [...(found.get(key) ?? []), h]);
  }
  const order = (key: string) => (key === "past" ? "0" : key === "none" ? "9999" : key);
  const load = new Map(days.map((d) => [d.day, d]));
  return [...found.entries()]
    .sort(([a], [b]) => (order(a) < order(b) ? -1 : 1))
    .map(([key, wheels]) => ({
      key,
      title: titleOf(key, today),
      hung: inLots(wheels),
      benchMin: load.get(key)?.bench_min ?? null,
      workMin: load.get(key)?.work_min ?? null,
    }));
}

/** The first `most` that hang, by day; the last of these days perhaps not in full. */
export function firstOf(days: readonly RailDay[], most: number): RailDay[] {
  const found: RailDay[] = [];
  let room = most;
  for (const day of days) {
    if (room <= 0) break;
    found.push({ ...day, hung: day.hung.slice(0, room) });
    room -= day.hung.length;
  }
  return found;
}

function inLots(wheels: readonly Hanging[]): Hung[] {
  const of = new Map<number, Hanging[]>();
  for (const h of wheels) of.set(h.customer_no, [...(of.get(h.customer_no) ?? []), h]);
  const hung: Hung[] = [];
  const seen = new Set<number>();
  for (const h of wheels) {
    const all = of.get(h.customer_no) ?? [];
    if (all.length < LOT_FROM) hung.push({ key: h.job.id, wheels: [h] });
    else if (!seen.has(h.customer_no)) {
      seen.add(h.customer_no);
      hung.push({ key: `lot-${h.customer_no}`, wheels: all });
    }
  }
  return hung;
}

const DAY_MS = 86_400_000;

function titleOf(key: string, today: string): string {
  if (key === "none") return say`No day promised`;
  if (key === "past") return say`Before today`;
  const [day, base] = [Date.parse(key), Date.parse(today)];
  const days = (day - base) / DAY_MS;
  const { day: short, weekday } = calendarDay(day);
  const name = days === 0 ? say`Today` : days === 1 ? say`Tomorrow` : weekday;
  return `${name} ${short}`;
}

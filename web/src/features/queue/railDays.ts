import type { Schemas } from "@/api/client";

export type Hanging = Schemas["Hanging"];

export interface RailDay {
  key: string;
  date: Date | null;
  title: string;
  wheels: Hanging[];
}

const WEEKDAY = new Intl.DateTimeFormat("en-GB", { weekday: "long" });
const SHORT = new Intl.DateTimeFormat("en-GB", { day: "numeric", month: "short" });

function dayKey(date: Date): string {
  return `${date.getFullYear()}-${date.getMonth()}-${date.getDate()}`;
}

/** The wheels by the day of their promise: what is overdue first, then day by day, then what has no promise. */
export function railDays(hanging: readonly Hanging[], now: Date): RailDay[] {
  const days = new Map<string, RailDay>();
  const startOfToday = new Date(now.getFullYear(), now.getMonth(), now.getDate());
  for (const h of hanging) {
    const at = h.job.promised_at ? new Date(h.job.promised_at) : null;
    const past = at !== null && at < startOfToday;
    const key = at === null ? "none" : past ? "past" : dayKey(at);
    const day = days.get(key) ?? {
      key,
      date: past ? null : at,
      title: titleOf(at, past, startOfToday),
      wheels: [],
    };
    day.wheels.push(h);
    days.set(key, day);
  }
  return [...days.values()];
}

function titleOf(at: Date | null, past: boolean, today: Date): string {
  if (at === null) return "No day promised";
  if (past) return "Before today";
  const days = Math.floor((at.getTime() - today.getTime()) / 86_400_000);
  const name = days === 0 ? "Today" : days === 1 ? "Tomorrow" : WEEKDAY.format(at);
  return `${name} ${SHORT.format(at)}`;
}

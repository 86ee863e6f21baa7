import { manner } from "@/ui/when";
import { t as say } from "@lingui/core/macro";
import type { Schemas } from "@/api/client";

export type Hanging = Schemas["Hanging"];

export interface RailDay {
  key: string;
  date: Date | null;
  title: string;
  wheels: Hanging[];
}

const WEEKDAY = new Intl.DateTimeFormat(manner(), { weekday: "long" });
const SHORT = new Intl.DateTimeFormat(manner(), { day: "numeric", month: "short" });

/** The local calendar day as a count of days: a day may have 23 or 25 hours, its number never jumps. */
function dayNumber(date: Date): number {
  return Date.UTC(date.getFullYear(), date.getMonth(), date.getDate()) / 86_400_000;
}

/** The wheels by the day of their promise: what is overdue first, then day by day, then what has no promise. */
export function railDays(hanging: readonly Hanging[], now: Date): RailDay[] {
  const days = new Map<string, RailDay>();
  const today = dayNumber(now);
  for (const h of hanging) {
    const at = h.job.promised_at ? new Date(h.job.promised_at) : null;
    const past = at !== null && dayNumber(at) < today;
    const key = at === null ? "none" : past ? "past" : String(dayNumber(at));
    const day = days.get(key) ?? {
      key,
      date: past ? null : at,
      title: titleOf(at, past, today),
      wheels: [],
    };
    day.wheels.push(h);
    days.set(key, day);
  }
  return [...days.values()];
}

function titleOf(at: Date | null, past: boolean, today: number): string {
  if (at === null) return say`No day promised`;
  if (past) return say`Before today`;
  const days = dayNumber(at) - today;
  const name = days === 0 ? say`Today` : days === 1 ? say`Tomorrow` : WEEKDAY.format(at);
  return `${name} ${SHORT.format(at)}`;
}

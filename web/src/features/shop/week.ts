import { t as say } from "@lingui/core/macro";
import type { Schemas } from "@/api/client";

type Span = Schemas["WeekSpan"];

export const WEEKDAYS = [
  say`Monday`,
  say`Tuesday`,
  say`Wednesday`,
  say`Thursday`,
  say`Friday`,
  say`Saturday`,
  say`Sunday`,
];

/** "9-12:30, 13:30-18": what stands in a day's field. */
export function dayText(week: readonly Span[], weekday: number): string {
  const short = (time: string) => time.slice(0, 5).replace(/^0/, "").replace(":00", "");
  return week
    .filter((s) => s.weekday === weekday)
    .map((s) => `${short(s.starts)}-${short(s.ends)}`)
    .join(", ");
}

const SPAN = /^(\d{1,2})(?:[:.](\d\d))?\s*[-–]\s*(\d{1,2})(?:[:.](\d\d))?$/;

/** A day's field as spans; null where it cannot be read. Whether they can be is the server's to say. */
export function daySpans(text: string, weekday: number): Span[] | null {
  const found: Span[] = [];
  for (const part of text
    .split(/[,;]/)
    .map((p) => p.trim())
    .filter(Boolean)) {
    const read = SPAN.exec(part);
    if (!read) return null;
    const time = (hour = "", minute = "00") =>
      Number(hour) < 24 && Number(minute) < 60 ? `${hour.padStart(2, "0")}:${minute}:00` : "";
    const [starts, ends] = [time(read[1], read[2]), time(read[3], read[4])];
    if (!starts || !ends) return null;
    found.push({ weekday, starts, ends });
  }
  return found;
}

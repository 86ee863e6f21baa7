import { i18n } from "@lingui/core";
/** English is written the British way, as the shops that speak it here do. */
// eslint-disable-next-line lingui/no-unlocalized-strings -- a locale, not a word
export const manner = () => (i18n.locale.startsWith("en") ? "en-GB" : i18n.locale);

/* eslint-disable lingui/no-unlocalized-strings -- names of formats and of a zone */
let zone = "UTC";
const made = new Map<string, Intl.DateTimeFormat>();

/** Every time is shown and entered in the shop's own time zone, on whatever device. */
export function setShopZone(name: string) {
  zone = name;
}

function format(name: string, options: Intl.DateTimeFormatOptions): Intl.DateTimeFormat {
  const key = `${manner()} ${zone} ${name}`;
  let found = made.get(key);
  if (!found) made.set(key, (found = new Intl.DateTimeFormat(manner(), { timeZone: zone, ...options })));
  return found;
}

const day = () => format("day", { weekday: "short", day: "numeric", month: "short" });
const time = () => format("time", { hour: "2-digit", minute: "2-digit" });

/** "Tue 24 Nov, 14:30", in the shop's time. */
export function dayAndTime(iso: string): string {
  const date = new Date(iso);
  return `${day().format(date)}, ${time().format(date)}`;
}

export function dayName(date: Date): string {
  return day().format(date);
}

/** "24 Nov" and "Tuesday" of a calendar day alone, in no zone at all: its number never jumps. */
export function calendarDay(at: number): { day: string; weekday: string } {
  return {
    day: format("calendar day", { day: "numeric", month: "short", timeZone: "UTC" }).format(at),
    weekday: format("calendar weekday", { weekday: "long", timeZone: "UTC" }).format(at),
  };
}

/** "26 Nov 2026", for what was long ago; a bare day has no clock, so that no zone moves it. */
export function fullDay(iso: string): string {
  const how = { day: "numeric", month: "short", year: "numeric" } as const;
  if (!iso.includes("T"))
    return new Intl.DateTimeFormat(manner(), { ...how, timeZone: "UTC" }).format(new Date(iso));
  return format("full", how).format(new Date(iso));
}

/** "Thursday 16:00", as said on the telephone. */
export function spokenTime(iso: string): string {
  const date = new Date(iso);
  return `${format("weekday", { weekday: "long", day: "numeric", month: "long" }).format(date)}, ${time().format(date)}`;
}

export function timeOf(iso: string): string {
  return time().format(new Date(iso));
}

/** "2026-11-26": the day on which a moment falls in the shop. */
export function dayOf(at: Date): string {
  const parts = fields(at);
  return `${parts["year"]}-${parts["month"]}-${parts["day"]}`;
}

/** In figures alone, whatever is spoken. A format is made once: the rail asks for hundreds of days. */
function fields(at: Date): Record<string, string> {
  const key = `fields ${zone}`;
  let found = made.get(key);
  if (!found) {
    found = new Intl.DateTimeFormat("en-GB", {
      timeZone: zone,
      hourCycle: "h23",
      year: "numeric",
      month: "2-digit",
      day: "2-digit",
      hour: "2-digit",
      minute: "2-digit",
      second: "2-digit",
    });
    made.set(key, found);
  }
  const parts = found.formatToParts(at);
  return Object.fromEntries(parts.map((p) => [p.type, p.value]));
}

/** Value for a datetime-local input, on the shop's wall clock. */
export function toLocalInput(iso: string | null | undefined): string {
  if (!iso) return "";
  const f = fields(new Date(iso));
  return `${f["year"]}-${f["month"]}-${f["day"]}T${f["hour"]}:${f["minute"]}`;
}

/** What stands in a datetime-local input as a moment: the shop's wall clock, over days on which the clocks change. */
export function fromLocalInput(text: string): string | null {
  if (!/^\d{4}-\d\d-\d\dT\d\d:\d\d/.test(text)) return null;
  const wall = Date.parse(`${text.slice(0, 16)}:00Z`);
  if (Number.isNaN(wall)) return null;
  const ahead = (at: number) => {
    const f = fields(new Date(at));
    return (
      Date.parse(`${f["year"]}-${f["month"]}-${f["day"]}T${f["hour"]}:${f["minute"]}:${f["second"]}Z`) - at
    );
  };
  const near = wall - ahead(wall);
  return new Date(wall - ahead(near)).toISOString();
}
/* eslint-enable */

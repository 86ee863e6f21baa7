import { i18n } from "@lingui/core";
/** English is written the British way, as the shops that speak it here do. */
// eslint-disable-next-line lingui/no-unlocalized-strings -- a locale, not a word
export const manner = () => (i18n.locale.startsWith("en") ? "en-GB" : i18n.locale);

const DAY = new Intl.DateTimeFormat(manner(), { weekday: "short", day: "numeric", month: "short" });
const TIME = new Intl.DateTimeFormat(manner(), { hour: "2-digit", minute: "2-digit" });

/** "Tue 24 Nov, 14:30", in the time of the person who looks. */
export function dayAndTime(iso: string): string {
  const date = new Date(iso);
  return `${DAY.format(date)}, ${TIME.format(date)}`;
}

export function dayName(date: Date): string {
  return DAY.format(date);
}

export function timeOf(iso: string): string {
  return TIME.format(new Date(iso));
}

/** Value for a datetime-local input. */
export function toLocalInput(iso: string | null | undefined): string {
  if (!iso) return "";
  const date = new Date(iso);
  const local = new Date(date.getTime() - date.getTimezoneOffset() * 60_000);
  return local.toISOString().slice(0, 16);
}

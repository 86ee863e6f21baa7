import { i18n } from "@lingui/core";
import { useEffect, useState } from "react";

const TICK_MS = 5000;

/** "20 s ago", "3 min ago", "2 h ago": how long since a moment, as of `now`. Within a few seconds of now: zero seconds. */
export function agoText(iso: string, now: number): string {
  const seconds = Math.max(0, Math.round((now - Date.parse(iso)) / 5000) * 5);
  const [amount, unit] =
    seconds < 90
      ? ([seconds, "second"] as const)
      : seconds < 5400
        ? ([Math.round(seconds / 60), "minute"] as const)
        : ([Math.round(seconds / 3600), "hour"] as const);
  return new Intl.RelativeTimeFormat(i18n.locale, { style: "short", numeric: "auto" }).format(-amount, unit);
}

/** How long ago, kept up to date while it is shown; empty without a moment. */
export function useAgo(iso: string | null | undefined): string {
  const [now, setNow] = useState(Date.now);
  useEffect(() => {
    if (!iso) return;
    const tick = setInterval(() => setNow(Date.now()), TICK_MS);
    return () => clearInterval(tick);
  }, [iso]);
  return iso ? agoText(iso, Math.max(now, Date.parse(iso))) : "";
}

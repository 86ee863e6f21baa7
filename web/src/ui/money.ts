import { manner } from "@/ui/when";
import { t as say } from "@lingui/core/macro";
/** "€ 42.50" of 4250 minor units, or a plain word where there is no price. */
export function money(minor: number | null | undefined, currency: string): string {
  if (minor === null || minor === undefined) return say`no price set`;
  const format = new Intl.NumberFormat(manner(), { style: "currency", currency });
  const digits = format.resolvedOptions().maximumFractionDigits ?? 2;
  return format.format(minor / 10 ** digits);
}

/** "1 h 25 min" of 85. */
export function minutesText(minutes: number): string {
  if (minutes < 60) return `${minutes} min`;
  const rest = minutes % 60;
  return rest ? say`${Math.floor(minutes / 60)} h ${rest} min` : `${Math.floor(minutes / 60)} h`;
}

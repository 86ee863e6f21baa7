import { i18n } from "@lingui/core";
import { t as say } from "@lingui/core/macro";
import { manner } from "@/ui/when";

const marks = new Map<string, string>();

/** The decimal mark of the language that is spoken. */
function mark(): string {
  let found = marks.get(i18n.locale);
  if (found === undefined) {
    const parts = new Intl.NumberFormat(manner()).formatToParts(1.5);
    marks.set(i18n.locale, (found = parts.find((part) => part.type === "decimal")?.value ?? "."));
  }
  return found;
}

/** A measured figure as the language writes it, never grouped: "0.25", or "0,25". */
export function figure(value: number, digits?: number): string;
export function figure(value: number | null | undefined, digits?: number): string | undefined;
export function figure(value: number | null | undefined, digits?: number): string | undefined {
  if (value === null || value === undefined) return undefined;
  const text = digits === undefined ? String(value) : value.toFixed(digits);
  return text.replace(".", mark());
}

/** What a person typed, as a number: comma or point, a leading sign; null where it is none. */
export function typedNumber(text: string): number | null {
  const clean = text.trim().replace(",", ".").replace("−", "-");
  if (!/^[+-]?(\d+\.?\d*|\.\d+)$/.test(clean)) return null;
  return Number(clean);
}

/** May this text still become a number? Keeps letters out while a sign or a point stands alone. */
export function couldBeNumber(text: string): boolean {
  return /^[+-]?\d*[.,]?\d*$/.test(text.replace("−", "-"));
}

/** Half a step up or down, to the hundredth at most: a dial's half step is 0.05 mm, a meter's may be a quarter. */
export function stepped(value: number, by: number): string {
  return String(Math.round((value + by) * 100) / 100 || 0);
}

/** What a figure may be; `unit` is only said. */
export interface Limits {
  min?: number | undefined;
  max?: number | undefined;
  /** Counts and days: no fractions. */
  whole?: boolean | undefined;
  unit?: string | undefined;
}

/** Why a text is no figure within its limits, in a sentence; undefined where it is one, or where nothing stands yet. */
export function wrongIn(text: string, { min, max, whole, unit }: Limits = {}): string | undefined {
  if (text.trim() === "") return undefined;
  const value = typedNumber(text);
  const said = unit ? ` ${unit}` : "";
  if (value === null) return say`“${text.trim()}” is no number.`;
  if (whole && !Number.isInteger(value)) return say`A whole number, please.`;
  if (min !== undefined && value < min) return say`At least ${min}${said}.`;
  if (max !== undefined && value > max) return say`At most ${max}${said}.`;
  return undefined;
}

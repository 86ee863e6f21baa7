import { t as say } from "@lingui/core/macro";
import type { Schemas } from "@/api/client";

type Entry = Schemas["ReadingEntryRequest"];

/** By feel, on the digits 1 to 4. */
export const FEELS = ["slack", "loose", "right", "tight"] as const;

export const OTHER_SOURCES = [
  { value: "N", text: say`Force in N` },
  { value: "kgf", text: say`Force in kgf` },
  { value: "lbf", text: say`Force in lbf` },
  { value: "Hz", text: say`Pitch in Hz` },
  { value: "feel", text: say`By feel, 1 to 4` },
];

/** What a figure means on the source that is chosen; a sentence where it means nothing. */
export function tensionEntry(
  source: string,
  meter: Schemas["Meter"] | undefined,
  value: number,
): Partial<Entry> | string {
  if (meter) return { value, unit: "meter", meter: meter.id };
  if (source === "feel") {
    const feel = FEELS[value - 1];
    return feel ? { feel } : say`By feel: 1 slack, 2 loose, 3 right, 4 tight.`;
  }
  const unit = (["N", "kgf", "lbf", "Hz"] as const).find((u) => u === source);
  return unit ? { value, unit } : say`Choose first what this figure was read with.`;
}

export function sourceText(source: string, meter: Schemas["Meter"] | undefined): string {
  if (meter) return say`units`;
  return source === "feel" ? "1–4" : source;
}

export function halfStepOf(source: string, meterStep: number | undefined): number {
  if (meterStep !== undefined) return meterStep;
  return { N: 10, kgf: 1, lbf: 2, Hz: 1, feel: 1 }[source] ?? 10;
}

/** What the meter's own table for this side's spokes says. */
export function stepOf(
  meter: Schemas["Meter"],
  derived: Schemas["Derived"],
  spoke: string,
): number | undefined {
  const kind = derived.sides[spoke.startsWith("R") ? "R" : "L"].spoke_kind;
  return meter.tables.find((t) => t.spoke_kind === kind)?.resolution;
}

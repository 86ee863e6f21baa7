import { t as say } from "@lingui/core/macro";
import type { Schemas } from "@/api/client";

type Verdict = Schemas["NippleFit"]["verdict"];

/** A word for where a spoke's end stands. */
export const VERDICT: Record<Verdict, string> = {
  fits: say`fits`,
  short: say`short, holds`,
  head_unsupported: say`head unheld`,
  in_slot: say`in the slot`,
  thread_runs_out: say`thread out`,
  proud: say`stands proud`,
};

/** The word under a length: what surely fits or does not, and what a guess cannot tell. */
export function verdictOf(fit: { verdict: Verdict; told: string }): string {
  return fit.told === "cannot_tell" ? say`cannot be told` : VERDICT[fit.verdict];
}

export function sideName(side: "R" | "L"): string {
  return side === "R" ? say`● Right` : say`○ Left`;
}

const DIMENSIONS: Record<string, string> = {
  old_spokes: say`old spokes`,
  "rim.erd_mm": "ERD",
  "rim.spoke_bed_offset_mm": say`spoke bed offset`,
  "rim.stagger_mm": "stagger",
  "hub.old_mm": "over-locknut width",
  pitch_circle_mm: say`flange circle`,
  center_to_flange_mm: say`centre to flange`,
  hole_diameter_mm: say`flange hole`,
};

/** "ERD" of "rim.erd_mm". */
export function dimensionName(field: string): string {
  return DIMENSIONS[field] ?? DIMENSIONS[field.split(".").at(-1) ?? ""] ?? field;
}

export const MENDS: Record<string, string> = {
  as_they_are: say`The old spokes stay, as they are`,
  change_sides: say`The old spokes stay, sides changed round`,
  one_side: say`New spokes on one side`,
  new: say`New spokes on both sides`,
  measure: say`Measure an old spoke first`,
};

import type { Schemas } from "@/api/client";

type Verdict = Schemas["NippleFit"]["verdict"];

/** A word for where a spoke's end stands. */
export const VERDICT: Record<Verdict, string> = {
  fits: "fits",
  short: "short, holds",
  head_unsupported: "head unheld",
  in_slot: "in the slot",
  thread_runs_out: "thread out",
  proud: "stands proud",
};

export function sideName(side: "R" | "L"): string {
  return side === "R" ? "● Right" : "○ Left";
}

const DIMENSIONS: Record<string, string> = {
  "rim.erd_mm": "ERD",
  "rim.spoke_bed_offset_mm": "spoke bed offset",
  "rim.stagger_mm": "stagger",
  "hub.old_mm": "over-locknut width",
  pitch_circle_mm: "flange circle",
  center_to_flange_mm: "centre to flange",
  hole_diameter_mm: "flange hole",
};

/** "ERD" of "rim.erd_mm". */
export function dimensionName(field: string): string {
  return DIMENSIONS[field] ?? DIMENSIONS[field.split(".").at(-1) ?? ""] ?? field;
}

export const MENDS: Record<string, string> = {
  as_they_are: "The old spokes stay, as they are",
  change_sides: "The old spokes stay, sides changed round",
  one_side: "New spokes on one side",
  new: "New spokes on both sides",
};

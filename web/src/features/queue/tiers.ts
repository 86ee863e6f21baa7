import { t as say } from "@lingui/core/macro";
import type { Schemas } from "@/api/client";
import { word } from "@/ui/words";
import { figure } from "@/ui/number";

type Tier = Schemas["Tier"];

/** A tier with its figures, in a line. */
export function tierText(t: Tier): string {
  return say`${word(t.name)}: ${figure(t.lateral_mm)} / ${figure(t.radial_mm)} mm, dish ${figure(t.dish_mm)}, ±${figure(t.tension_percent)} %`;
}

/** What a job can be held to: its own tier with the figures that it was promised with, and the others as they are today. */
export function tierChoices(offered: readonly Tier[], own: Tier): { value: string; text: string }[] {
  const others = offered.filter((t) => t.name !== own.name);
  return [own, ...others]
    .sort((a, b) => b.lateral_mm - a.lateral_mm || b.tension_percent - a.tension_percent)
    .map((t) => ({
      value: t.name,
      text: say`${word(t.name)}: ${figure(t.lateral_mm)} / ${figure(t.radial_mm)} mm, ±${figure(t.tension_percent)} %`,
    }));
}

/** The job's tier as the shop means it today, where that is not what was promised; null where it is, or another is chosen. */
export function changedSince(offered: readonly Tier[], own: Tier, chosen: string): Tier | null {
  const today = offered.find((t) => t.name === own.name);
  if (!today || chosen !== own.name) return null;
  const same =
    today.lateral_mm === own.lateral_mm &&
    today.radial_mm === own.radial_mm &&
    today.dish_mm === own.dish_mm &&
    today.tension_percent === own.tension_percent;
  return same ? null : today;
}

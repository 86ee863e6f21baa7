import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useEffect } from "react";
import { turnsText } from "@/features/bench/turns";
import { announce } from "@/features/bench/sound";
import { Fraction } from "@/ui/Fraction";
import type { Left } from "./planned";
import { type ForceUnit, shownForce } from "@/ui/forces";

interface NextMoveProps {
  next: Left | undefined;
  left: number;
  unit: ForceUnit;
}

/** Felloe's plan for a practice wheel, nipple by nipple, with why. */
export function NextMove({ next, left, unit }: NextMoveProps) {
  const spoke = next?.move.spoke ?? "";
  const turns = next?.turns ?? 0;
  useEffect(() => announce(spoke, turns, turnsText(turns)), [spoke, turns]);
  if (!next)
    return (
      <p className="font-bold">
        <Trans>The plan is turned. Squeeze the pairs, then let it be judged.</Trans>
      </p>
    );
  const { move } = next;
  return (
    <section
      aria-label={say`The next nipple of the plan`}
      className="flex flex-col gap-2 rounded-md border border-line bg-plate px-3 py-2 max-xl:flex-row max-xl:items-center max-xl:gap-6 max-xl:py-1 max-sm:flex-col max-sm:items-start"
    >
      <p className="flex flex-wrap items-center gap-x-4 text-4xl font-bold low:text-3xl">
        <span className="font-figure">{move.spoke}</span>
        <span>{turns > 0 ? say`tighten` : say`ease`}</span>
        <Fraction text={turnsText(turns)} />
      </p>
      <p className="text-sm">
        <Trans>
          {shownForce(Math.max(0, move.turn_from_n), unit)} → {shownForce(Math.max(0, move.turn_to_n), unit)}{" "}
          {unit}. {move.why} {left} left.
        </Trans>
      </p>
    </section>
  );
}

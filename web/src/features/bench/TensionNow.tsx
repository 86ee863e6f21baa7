import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { ReactNode } from "react";
import type { Schemas } from "@/api/client";
import { type ForceUnit, shownForce } from "@/ui/forces";

interface TensionNowProps {
  move: Schemas["PlanMove"];
  unit: ForceUnit;
  asPlanned: boolean;
}

/** What this turn does to its spoke now, and apart from it what the spoke will hold when the whole pass is done. */
export function TensionNow({ move, unit, asPlanned }: TensionNowProps) {
  const force = (n: number) => shownForce(Math.max(0, n), unit);
  const { turn_from_n: from, turn_to_n: to } = move;
  return (
    <dl className="flex flex-wrap gap-x-8 gap-y-1">
      {from !== null && to !== null ? (
        <>
          <Figure name={asPlanned ? say`This turn` : say`This turn, about`}>
            {force(from)} → {force(to)} {unit}
          </Figure>
          <Figure name={say`End of the pass`}>
            {force(move.tension_after_n)} {unit}
            {move.expected_reading !== null && (
              <span className="font-sans font-normal text-muted">
                <Trans>, the meter reads {move.expected_reading}</Trans>
              </span>
            )}
          </Figure>
        </>
      ) : (
        <Figure name={say`Over the pass`}>
          {force(move.tension_before_n)} → {force(move.tension_after_n)} {unit}
          {move.expected_reading !== null && (
            <span className="font-sans font-normal text-muted">
              <Trans>, the meter reads {move.expected_reading}</Trans>
            </span>
          )}
        </Figure>
      )}
    </dl>
  );
}

function Figure({ name, children }: { name: string; children: ReactNode }) {
  return (
    <div className="flex items-baseline gap-2">
      <dt className="text-muted">{name}</dt>
      <dd className="font-figure font-bold">{children}</dd>
    </div>
  );
}

import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "@/api/client";
import { turnsText } from "@/features/bench/turns";
import { Fraction } from "@/ui/Fraction";
import { type ForceUnit, shownForce } from "@/ui/forces";

interface HappenedProps {
  now: Schemas["PracticeNow"];
  spoke: string;
  /** What this nipple was turned in this pass so far. */
  turned: number;
  unit: ForceUnit;
  spinning: boolean;
}

/** Where the hand is, and what the last deed showed. */
export function Happened({ now, spoke, turned, unit, spinning }: HappenedProps) {
  const { happened } = now;
  const here = happened.spoke === spoke;
  const along = Math.abs(happened.along_deg);
  return (
    <div className="flex min-h-14 items-center gap-4">
      <p className="font-figure text-4xl font-bold">{spoke}</p>
      <p className="text-sm">
        {turned === 0 ? (
          <Trans>not turned in this pass</Trans>
        ) : (
          <>
            {turned > 0 ? say`tightened` : say`eased`} <Fraction text={turnsText(turned)} />
          </>
        )}
      </p>
      <p role="status" className="min-w-0 flex-1 text-sm font-bold">
        {spinning ? (
          <Trans>spinning</Trans>
        ) : happened.tension_n !== null && here ? (
          <span className="text-xl">
            {shownForce(happened.tension_n, unit)} {unit}
          </span>
        ) : happened.what === "turn" && here && along >= 60 ? (
          <Trans>the spoke turned along, by {along}°</Trans>
        ) : happened.what === "turn" && here && along >= 10 ? (
          <span className="font-normal">
            <Trans>the spoke twisted by {along}°</Trans>
          </span>
        ) : (
          happened.what !== "plan" && happened.says
        )}
      </p>
    </div>
  );
}

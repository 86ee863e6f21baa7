import { word } from "@/ui/words";
import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "@/api/client";
import { type ForceUnit, shownForce } from "@/ui/forces";
import { Fraction } from "@/ui/Fraction";
import { turnsText } from "./turns";

/** The turns of a plan as a list for the wall beside the stand: only on paper. */
export function PrintedTurns({
  job,
  plan,
  unit,
}: {
  job: Schemas["Job"];
  plan: Schemas["Plan"];
  unit: ForceUnit;
}) {
  return (
    <section className="hidden p-4 print:block" aria-label={say`The turns, to print`}>
      <h1 className="text-2xl font-bold">
        <Trans>
          Job {job.number}: plan for {word(plan.tier)}
        </Trans>
      </h1>
      {plan.caution && <p className="font-bold">{plan.caution}</p>}
      <p>{plan.reason}</p>
      <ol className="mt-2">
        {plan.moves.map((move) => (
          <li key={move.key} className="flex items-baseline gap-4 border-b border-line py-1">
            <span aria-hidden="true">☐</span>
            <strong className="w-14 shrink-0 font-figure text-xl">{move.spoke}</strong>
            <span className="w-28 shrink-0">{move.turns > 0 ? say`▲ tighten` : say`▽ ease`}</span>
            <span className="w-16 shrink-0 text-xl font-bold">
              <Fraction text={turnsText(move.turns)} />
            </span>
            <span className="w-44 shrink-0 whitespace-nowrap font-figure">
              {shownForce(Math.max(0, move.tension_before_n), unit)} →{" "}
              {shownForce(move.tension_after_n, unit)} {unit}
            </span>
            <span className="text-sm">{move.why}</span>
          </li>
        ))}
      </ol>
      <p className="mt-2 text-sm">
        <Trans>
          Too much tension pulls nipples through the rim or makes it collapse. The rim maker&rsquo;s limit
          comes before this plan.
        </Trans>
      </p>
    </section>
  );
}

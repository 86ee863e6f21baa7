import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "@/api/client";
import { turnsText } from "@/features/bench/turns";
import { Button, ButtonLink } from "@/ui/Button";
import { figure } from "@/ui/number";
import { WriteState } from "@/write/useWrite";
import { Dots } from "./Dots";
import { useBegin } from "./LadderPage";
import { markWord, spentText } from "./words";

/** What is left against what is allowed. */
const pair = (left: number, allowed: number) => say`${figure(left, 2)} of ${figure(allowed, 2)} mm`;

/** The end of an exercise: the mark, what it rests on, and what was wrong with the wheel. */
export function MarksTold({ run, marks }: { run: Schemas["PracticeRun"]; marks: Schemas["PracticeMarks"] }) {
  const begin = useBegin();
  const answered = run.mode === "find" || run.mode === "lace";
  const { tier } = run;
  const figures: [string, string][] = answered
    ? [
        [say`wrong answers`, String(marks.wrong)],
        [say`time`, spentText(marks.seconds)],
      ]
    : [
        [say`lateral`, pair(marks.lateral_mm, tier.lateral_mm)],
        [say`radial`, pair(marks.radial_mm, tier.radial_mm)],
        [say`dish`, pair(marks.dish_mm, tier.dish_mm)],
        [say`uneven by`, `${figure(marks.spread_percent, 0)} / ${figure(tier.tension_percent, 0)} %`],
        [say`nipples touched`, say`${marks.touches}, the best plan ${marks.best_touches}`],
        [say`turns in all`, turnsText(marks.turns)],
        [say`time`, spentText(marks.seconds)],
        ...(marks.askew ? ([[say`blades askew`, String(marks.askew)]] as [string, string][]) : []),
        ...(marks.snapped ? ([[say`spokes broken`, String(marks.snapped)]] as [string, string][]) : []),
      ];
  return (
    <section aria-label={say`The end of the exercise`} className="flex flex-col items-start gap-3">
      <p className="text-3xl font-bold">
        <Dots mark={marks.mark} /> {markWord(marks.mark)}
      </p>
      {!answered && !marks.inside && (
        <p>
          <Trans>
            Judged as after a ride, when every twist has let go: outside of {run.tier_word}, or too slack,
            askew or with a broken spoke.
          </Trans>
        </p>
      )}
      <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-1">
        {figures.map(([name, value]) => (
          <div key={name} className="contents">
            <dt className="text-muted">{name}</dt>
            <dd className="font-figure font-bold">{value}</dd>
          </div>
        ))}
      </dl>
      {run.now.truth.length > 0 && (
        <p>
          <Trans>What was wrong:</Trans>{" "}
          <strong>
            {run.now.truth
              .map(({ fault, spokes }) => (spokes.length ? `${fault} (${spokes.join(", ")})` : fault))
              .join("; ")}
          </strong>
        </p>
      )}
      {run.now.passes.length > 0 && (
        <ol aria-label={say`What each pass taught`} className="list-decimal pl-6">
          {run.now.passes.map((pass) => (
            <li key={pass.number}>{pass.sentence}</li>
          ))}
        </ol>
      )}
      <div className="flex flex-wrap gap-2">
        {run.exercise === "own" ? (
          <ButtonLink weight="now" to="/practice">
            <Trans>Another wheel</Trans>
          </ButtonLink>
        ) : (
          <Button
            weight="now"
            disabled={begin.pending}
            onClick={() => begin.go({ exercise: run.exercise, kind: run.kind })}
          >
            <Trans>Once more, another wheel</Trans>
          </Button>
        )}
        <ButtonLink to={`/practice/lessons/${run.lesson}`}>
          <Trans>The lesson</Trans>
        </ButtonLink>
        <ButtonLink to="/practice">
          <Trans>The ladder</Trans>
        </ButtonLink>
      </div>
      <WriteState of={begin} />
    </section>
  );
}

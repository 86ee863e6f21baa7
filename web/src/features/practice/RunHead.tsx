import { Trans } from "@lingui/react/macro";
import { Link } from "react-router";
import type { Schemas } from "@/api/client";
import { SoundKey } from "@/features/bench/SoundKey";
import { ButtonLink } from "@/ui/Button";
import { figure } from "@/ui/number";

/** What is practised, on what, and how good it is to be. */
export function RunHead({ run }: { run: Schemas["PracticeRun"] }) {
  const { tier } = run;
  const trues = run.mode !== "lace" && run.mode !== "find";
  return (
    <div className="flex flex-wrap items-center gap-x-6 gap-y-1 px-4 pt-2 max-sm:px-2">
      <div className="min-w-0 flex-1">
        <p className="-my-2 truncate text-sm" title={run.kind_name}>
          <Link
            to="/practice"
            className="inline-flex min-h-12 min-w-12 items-center underline underline-offset-4"
          >
            <Trans>Practice</Trans>
          </Link>
          <span className="text-muted"> · {run.kind_name}</span>
        </p>
        <h1>{run.name}</h1>
        <p className="text-sm low:hidden max-sm:hidden">{run.task}</p>
      </div>
      {trues && (
        <p className="font-figure text-sm max-sm:hidden">
          <Trans>
            goal {run.tier_word}: lateral {figure(tier.lateral_mm, 1)}, radial {figure(tier.radial_mm, 1)},
            dish {figure(tier.dish_mm, 1)} mm, even within {figure(tier.tension_percent, 0)} %
          </Trans>
        </p>
      )}
      {run.mode !== "lace" && <SoundKey compact />}
      <ButtonLink to={`/practice/lessons/${run.lesson}`}>
        <Trans>Lesson</Trans>
      </ButtonLink>
    </div>
  );
}

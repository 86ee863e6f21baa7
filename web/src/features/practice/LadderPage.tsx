import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { answer, client, type Schemas } from "@/api/client";
import { keys } from "@/api/keys";
import { askPractice } from "@/api/practiceQueries";
import { useMay } from "@/app/useMay";
import { Button, ButtonLink } from "@/ui/Button";
import { NotYet } from "@/ui/NotYet";
import { useWrite, WriteState } from "@/write/useWrite";
import { Banner } from "./Banner";
import { Dots } from "./Dots";
import { Learners } from "./Learners";
import { OwnWheel } from "./OwnWheel";

/** Take a practice wheel and go to it. */
export function useBegin() {
  const navigate = useNavigate();
  return useWrite({
    touches: [keys.practice()],
    send: (body: Schemas["BeginRequest"], head) =>
      answer(client.POST("/api/v1/practice/runs", { body, ...head })),
    onSaved: (run) => void navigate(`/practice/${run.id}`),
  });
}

/** The ladder: one fault at a time, by eye before by figures, both together last. */
export default function LadderPage() {
  const ladder = useQuery(askPractice.ladder());
  const may = useMay();
  const begin = useBegin();
  if (!ladder.data) return <NotYet of={[ladder]} what={say`the ladder of exercises`} />;
  const { rungs, modes } = ladder.data;
  const next =
    rungs.find((rung) => rung.open_run) ??
    rungs.find((rung) => rung.set_by) ??
    rungs.find((rung) => !rung.mastered);
  return (
    <main className="flex flex-1 flex-col">
      <Banner />
      <div className="grid grid-cols-1 gap-x-8 gap-y-4 p-4 xl:grid-cols-[minmax(0,1fr)_420px]">
        <section aria-label={say`The ladder`} className="flex flex-col gap-2">
          <h1>
            <Trans>Practice</Trans>
          </h1>
          <p className="max-w-prose">
            <Trans>
              Wheels that answer as real ones do. Turn, look, and be told after each pass what the best plan
              would have done.
            </Trans>
          </p>
          <WriteState of={begin} />
          <ol className="flex flex-col">
            {rungs.map((rung, i) => (
              <li
                key={rung.key}
                className="grid grid-cols-[2rem_minmax(0,1fr)_auto] items-center gap-x-3 border-b border-line py-2 max-sm:grid-cols-[2rem_minmax(0,1fr)]"
              >
                <span className="font-figure text-xl font-bold">{i + 1}</span>
                <div>
                  <p className="flex flex-wrap items-baseline gap-x-3">
                    <strong>{rung.name}</strong>
                    <span className="text-sm text-muted">
                      {modes.find((mode) => mode.key === rung.mode)?.text}
                    </span>
                    <Dots mark={rung.best} />
                    {rung.mastered && (
                      <span className="text-sm font-bold">
                        <Trans>mastered ✓</Trans>
                      </span>
                    )}
                    {rung.set_by && (
                      <span className="rounded-sm bg-tag px-2 text-sm font-bold text-tag-ink">
                        <Trans>set by {rung.set_by}</Trans>
                      </span>
                    )}
                  </p>
                  <p className="text-sm">{rung.task}</p>
                </div>
                <div className="flex flex-wrap gap-2 max-sm:col-start-2">
                  <ButtonLink
                    weight="quiet"
                    to={`/practice/lessons/${rung.lesson}`}
                    aria-label={say`Lesson: ${rung.name}`}
                  >
                    <Trans>Lesson</Trans>
                  </ButtonLink>
                  {rung.open_run ? (
                    <ButtonLink
                      weight={rung === next ? "now" : "plain"}
                      to={`/practice/${rung.open_run}`}
                      aria-label={say`Go on: ${rung.name}`}
                    >
                      <Trans>Go on</Trans>
                    </ButtonLink>
                  ) : (
                    <Button
                      weight={rung === next ? "now" : "plain"}
                      disabled={begin.pending}
                      aria-label={say`Begin: ${rung.name}`}
                      onClick={() => begin.go({ exercise: rung.key })}
                    >
                      <Trans>Begin</Trans>
                    </Button>
                  )}
                </div>
              </li>
            ))}
          </ol>
        </section>
        <div className="flex flex-col gap-6">
          <OwnWheel ladder={ladder.data} begin={begin} />
          {may("practice_learners") && <Learners rungs={rungs} />}
        </div>
      </div>
    </main>
  );
}

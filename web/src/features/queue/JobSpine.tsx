import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { IfFailed } from "@/ui/NotYet";
import { WriteState, useWrite } from "@/write/useWrite";
import { touches } from "@/api/keys";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import type { Problem } from "@/api/problem";
import { ask } from "@/api/queries";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { TextField } from "@/ui/Field";
import { StageWork } from "./StageWork";
import { stageIndex, stageName } from "./stages";
import { within } from "@/ui/words";

interface JobSpineProps {
  job: Schemas["Job"];
  stages: readonly Schemas["Stage"][];
}

/** The stages as a spine: what is behind, where the job stands, what is ahead, and the work at each. */
export function JobSpine({ job, stages }: JobSpineProps) {
  const sets = useQuery(ask.sets(job.id));
  const plans = useQuery(ask.plans(job.id));
  const here = stageIndex(stages, job.stage);
  const [asking, setAsking] = useState<Schemas["OpenStageEnum"] | "">("");
  // A stage that cannot be left without a word asks for it, instead of only saying no.
  const move = useMove(job, (to, problem) => {
    if (problem.for("reason")) setAsking(to as Schemas["OpenStageEnum"]);
  });
  const next = stages[here + 1];

  return (
    <>
      {!asking && <WriteState of={move} />}
      <IfFailed of={sets} />
      <IfFailed of={plans} />
      <ol className="flex flex-col">
        {stages.map((stage, i) => {
          const current = i === here;
          return (
            <li
              key={stage.key}
              aria-current={current ? "step" : undefined}
              className={`flex min-h-11 items-center gap-3 ${current ? "sticky bottom-0 z-10 rounded-sm bg-plate shadow-[0_-1px_0_var(--line)]" : ""}`}
            >
              <Knot past={i < here} current={current} first={i === 0} last={i === stages.length - 1} />
              {current || job.handed_back_at ? (
                <span className={`w-44 shrink-0 max-sm:w-28 ${current ? "text-lg font-bold" : ""}`}>
                  {stage.name}
                </span>
              ) : (
                <button
                  type="button"
                  title={say`Take the job to “${stage.name}”`}
                  onClick={() =>
                    i === here + 1
                      ? move.go({ to: stage.key, reason: "" })
                      : setAsking(stage.key as Schemas["OpenStageEnum"])
                  }
                  className={`min-h-11 w-44 shrink-0 text-left max-sm:w-28 underline-offset-4 hover:underline ${i < here ? "" : "text-muted"}`}
                >
                  {stage.name}
                </button>
              )}
              <span className="flex min-w-0 flex-1 flex-wrap items-center gap-2 text-sm">
                <StageWork
                  job={job}
                  stage={stage.key}
                  current={current}
                  past={i < here}
                  sets={sets.data ?? []}
                  plans={plans.data ?? []}
                />
              </span>
              {current && next && (
                <Button
                  className="shrink-0 max-sm:shrink"
                  onClick={() => move.go({ to: next.key, reason: "" })}
                  disabled={move.pending}
                >
                  <Trans>On to {within(next.name)}</Trans>
                </Button>
              )}
            </li>
          );
        })}
      </ol>
      {asking && (
        <WhyDialog
          title={say`To ${stageName(stages, asking)}`}
          move={move}
          onClose={() => setAsking("")}
          onGo={(reason) => move.go({ to: asking, reason }, () => setAsking(""))}
        />
      )}
    </>
  );
}

function useMove(job: Schemas["Job"], onRefused: (to: string, problem: Problem) => void) {
  const [to, setTo] = useState("");
  const write = useWrite({
    onRefused: (problem) => onRefused(to, problem),
    touches: touches.job(job.id),
    send: ({ to, reason }: { to: string; reason: string }, head) =>
      answer(
        client.POST("/api/v1/jobs/{job_id}/stage", {
          params: { path: { job_id: job.id } },
          ...head,
          body: { version: job.version, to_stage: to as Schemas["OpenStageEnum"], reason },
        }),
      ),
  });
  const go = (body: { to: string; reason: string }, then?: () => void) => {
    setTo(body.to);
    write.go(body, then);
  };
  return { ...write, go };
}

function Knot({
  past,
  current,
  first,
  last,
}: {
  past: boolean;
  current: boolean;
  first: boolean;
  last: boolean;
}) {
  return (
    <svg viewBox="0 0 24 52" className="-my-1 h-13 w-6 shrink-0" aria-hidden="true">
      <path d={`M12 ${first ? 26 : 0}V${last ? 26 : 52}`} className="stroke-line-strong" strokeWidth={2} />
      <circle
        cx={12}
        cy={26}
        r={current ? 9 : 5.5}
        className={
          current ? "fill-signal stroke-ink" : past ? "fill-ink stroke-ink" : "fill-face stroke-line-strong"
        }
        strokeWidth={2}
      />
    </svg>
  );
}

function WhyDialog({
  title,
  onClose,
  onGo,
  move,
}: {
  title: string;
  onClose: () => void;
  move: ReturnType<typeof useMove>;
  onGo: (reason: string) => void;
}) {
  const [reason, setReason] = useState("");
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={title}
      lead={say`A job may skip or repeat stages, or leave one with nothing noted, and says why.`}
    >
      <form
        className="flex flex-col gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          onGo(reason);
        }}
      >
        <TextField
          label={say`Why`}
          value={reason}
          onChange={setReason}
          error={move.refused?.for("reason")}
          autoFocus
        />
        <WriteState of={move} fields={["reason"]} />
        <div className="flex justify-end gap-3">
          <Button onClick={onClose}>
            <Trans>Stay</Trans>
          </Button>
          <Button weight="now" type="submit">
            <Trans>Go there</Trans>
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

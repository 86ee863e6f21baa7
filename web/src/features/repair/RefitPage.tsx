import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { keys, touches } from "@/api/keys";
import { useLatest, type EntryOf } from "@/write/useOutbox";
import { enter } from "@/write/outbox";
import { EntryNote } from "@/write/EntryNote";
import { useWrite } from "@/write/useWrite";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { answer, client, type Schemas } from "@/api/client";
import { ask } from "@/api/queries";
import { JobHead } from "@/app/JobHead";
import { Button, ButtonLink } from "@/ui/Button";
import { TextField } from "@/ui/Field";
import { NotYet } from "@/ui/NotYet";
import { BikeFacts } from "./BikeFacts";

/** Back into the bike: one step after another, fitted to this bike, then the day of the first re-check. */
export default function RefitPage() {
  const { jobId = "" } = useParams();
  const job = useQuery(ask.job(jobId));
  const refit = useQuery(ask.refit(jobId));
  const latest = useLatest("refit", { job_id: jobId }, (e) => e.body.step);
  if (!job.data || !refit.data) return <NotYet of={[job, refit]} what={say`the refit`} />;
  const closed = Boolean(job.data.handed_back_at);
  const steps = refit.data.steps.map((s) => {
    const entry = latest.get(s.key);
    return entry?.state === "waiting"
      ? { ...s, result: entry.body.result, note: entry.body.note ?? "", by: entry.byName }
      : s;
  });
  const open = steps.filter((s) => s.result !== "right");
  const next = open.find((s) => s.result === null)?.key;
  return (
    <main className="flex flex-1 flex-col">
      <JobHead
        job={job.data}
        title={job.data.with_bike ? say`Back into the bike` : say`The wheel leaves alone`}
      >
        <ButtonLink to={`/jobs/${jobId}/sign-off`}>
          <Trans>Sign off</Trans>
        </ButtonLink>
      </JobHead>
      <div className="grid flex-1 grid-cols-1 gap-8 p-4 lg:grid-cols-[1fr_360px]">
        <ol aria-label={say`Refit steps`} className="flex flex-col">
          {steps.map((s, i) => (
            <Step
              key={s.key}
              jobId={jobId}
              step={s}
              entry={latest.get(s.key)}
              number={i + 1}
              next={s.key === next}
              closed={closed}
            />
          ))}
        </ol>
        <aside aria-label={say`Bike and re-check`} className="flex flex-col gap-5">
          <p className="text-lg font-bold" aria-live="polite">
            {open.length === 0
              ? say`Every step is right.`
              : say`${open.length} of ${refit.data.steps.length} steps open.`}
          </p>
          <BikeFacts bike={job.data.bike} jobId={jobId} closed={closed} />
          <Recheck jobId={jobId} refit={refit.data} closed={closed} />
        </aside>
      </div>
    </main>
  );
}

interface StepProps {
  jobId: string;
  step: Schemas["RefitStep"];
  entry: EntryOf<"refit"> | undefined;
  number: number;
  next: boolean;
  closed: boolean;
}

function Step({ jobId, step, entry, number, next, closed }: StepProps) {
  const [wrong, setWrong] = useState(false);
  const [note, setNote] = useState("");
  const [slip, setSlip] = useState("");
  const send = (body: Schemas["RefitAnswerRequestRequest"]) => {
    enter("refit", { job_id: jobId }, body);
    setWrong(false);
    setNote("");
  };
  return (
    <li className={`border-t border-line py-2 ${next ? "bg-plate" : ""}`}>
      <div className="flex items-center gap-3">
        <span className="w-7 text-right font-figure text-muted">{number}</span>
        <p className={`flex-1 ${next ? "text-lg font-bold" : ""}`}>
          {step.text}
          {!step.must && (
            <span className="text-sm font-normal text-muted">
              <Trans> (where there is time)</Trans>
            </span>
          )}
          {step.result && (
            <span
              className={`block text-sm ${step.result === "wrong" ? "font-bold text-danger" : "text-muted"}`}
            >
              {step.result === "right" ? say`✓ right` : say`✗ not right: ${step.note}`}, {step.by}
            </span>
          )}
        </p>
        {!closed && (
          <>
            <Button weight={next ? "now" : "plain"} onClick={() => send({ step: step.key, result: "right" })}>
              <Trans>
                Right<span className="sr-only">: {step.text}</span>
              </Trans>
            </Button>
            <Button weight="quiet" onClick={() => setWrong(true)}>
              <Trans>
                Not right<span className="sr-only">: {step.text}</span>
              </Trans>
            </Button>
          </>
        )}
      </div>
      {wrong && (
        <form
          className="mt-2 ml-10 flex items-start gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            if (!note.trim()) return setSlip(say`Say what is not right.`);
            setSlip("");
            send({ step: step.key, result: "wrong", note });
          }}
        >
          <TextField
            label={say`What is not right`}
            value={note}
            onChange={setNote}
            error={slip || undefined}
            className="flex-1"
            autoFocus
          />
          <Button type="submit" className="mt-6">
            <Trans>Note it</Trans>
          </Button>
        </form>
      )}
      <EntryNote entry={entry} />
    </li>
  );
}

function Recheck({ jobId, refit, closed }: { jobId: string; refit: Schemas["Refit"]; closed: boolean }) {
  const [on, setOn] = useState(refit.recheck_on ?? refit.recheck_proposed_on);
  const send = useWrite({
    touches: touches.job(jobId),
    send: (_: void, head) =>
      answer(
        client.PUT("/api/v1/jobs/{job_id}/recheck", {
          params: { path: { job_id: jobId } },
          ...head,
          body: { on },
        }),
      ),
    fills: () => keys.ofJob(jobId, "refit"),
  });
  return (
    <form
      aria-label={say`First re-check`}
      className="flex flex-col gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        send.go();
      }}
    >
      <h2>
        <Trans>First re-check</Trans>
      </h2>
      <p className="text-sm text-muted">{refit.recheck_why}</p>
      <TextField
        label={say`Look again on`}
        type="date"
        value={on}
        onChange={setOn}
        disabled={closed}
        error={send.refused?.for("on") ?? send.refused?.message}
        help={refit.recheck_on ? say`Noted with the job.` : say`Proposed; not noted yet.`}
      />
      {!closed && (
        <Button type="submit" disabled={send.pending}>
          <Trans>Note the day</Trans>
        </Button>
      )}
    </form>
  );
}

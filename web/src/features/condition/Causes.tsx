import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { keys, touches } from "@/api/keys";
import { useWrite } from "@/write/useWrite";
import { useState } from "react";
import { Link } from "react-router";
import { answer, client, type Schemas } from "@/api/client";
import { Problem, sentenceOf } from "@/api/problem";
import { Button } from "@/ui/Button";
import { TextField } from "@/ui/Field";
import { Notice } from "@/ui/Notice";
import { dayAndTime } from "@/ui/when";
import { figure } from "@/ui/number";

interface CausesProps {
  job: Schemas["Job"];
  diagnosis: Schemas["Diagnosis"];
  closed: boolean;
}

/** The causes by their share of belief, with what speaks for each; one of them is noted, against the reckoning with a word why. */
export function Causes({ job, diagnosis, closed }: CausesProps) {
  const [open, setOpen] = useState("");
  const [reason, setReason] = useState("");
  const conclude = useWrite({
    touches: touches.job(job.id),
    send: (cause: string, head) =>
      answer(
        client.POST("/api/v1/jobs/{job_id}/diagnosis/findings", {
          params: { path: { job_id: job.id } },
          ...head,
          body: { cause, reason },
        }),
      ),
    fills: () => keys.ofJob(job.id, "diagnosis"),
    onSaved: () => {
      setReason("");
      setOpen("");
    },
  });
  const first = diagnosis.causes[0]?.key;
  const shown = open || first;
  return (
    <section aria-label={say`Causes`} className="flex flex-col gap-3">
      {diagnosis.finding && (
        <Notice kind="news">
          <Trans>
            {diagnosis.finding.name}, {diagnosis.finding.mended ? say`put right` : "noted"} by{" "}
            {diagnosis.finding.by}, {dayAndTime(diagnosis.finding.created_at)}
            {diagnosis.finding.mended && `: “${diagnosis.finding.reason}”`}
            {diagnosis.finding.overruled && say` against the reckoning: “${diagnosis.finding.reason}”`}.
          </Trans>
        </Notice>
      )}
      <p className="text-lg font-bold">{diagnosis.why}</p>
      <ol className="flex flex-col">
        {diagnosis.causes.map((cause) => (
          <li key={cause.key} className="border-t border-line">
            <button
              type="button"
              aria-expanded={cause.key === shown}
              onClick={() => setOpen(cause.key)}
              className="grid min-h-12 w-full grid-cols-[minmax(0,1fr)_120px_3.5rem] items-center gap-3 max-sm:grid-cols-[minmax(0,1fr)_64px_3.5rem] text-left"
            >
              <span className={cause.key === first ? "font-bold" : ""}>
                {cause.name}
                {cause.unsafe && (
                  <span className="ml-2 text-sm font-bold text-danger">
                    <Trans>not to be ridden</Trans>
                  </span>
                )}
              </span>
              <svg
                viewBox="0 0 100 10"
                preserveAspectRatio="none"
                className="h-2.5 w-full"
                aria-hidden="true"
              >
                <rect width={100} height={10} className="fill-sunk" />
                <rect width={Math.max(0.5, cause.share * 100)} height={10} className="fill-ink" />
              </svg>
              <span className="text-right font-figure">
                {figure(cause.share * 100, cause.share < 0.1 ? 1 : 0)} %
              </span>
            </button>
            {cause.key === shown && (
              <div className="flex flex-col gap-2 pb-3 text-sm">
                <p>
                  <strong>
                    <Trans>What to do:</Trans>
                  </strong>{" "}
                  {cause.remedy}{" "}
                  {cause.key === "frame" && (
                    <Link className="underline underline-offset-4" to={`/jobs/${job.id}/condition`}>
                      <Trans>Lay the frame gauge on</Trans>
                    </Link>
                  )}{" "}
                  {!cause.wheel_fault && (
                    <em>
                      <Trans>This is no fault of the wheel.</Trans>
                    </em>
                  )}
                </p>
                {cause.speaks_for.map((s) => (
                  <p key={s}>
                    <span aria-hidden="true">+ </span>
                    <span className="sr-only">
                      <Trans>Speaks for it: </Trans>
                    </span>
                    {s}
                  </p>
                ))}
                {cause.speaks_against.map((s) => (
                  <p key={s} className="text-muted">
                    <span aria-hidden="true">− </span>
                    <span className="sr-only">
                      <Trans>Speaks against it: </Trans>
                    </span>
                    {s}
                  </p>
                ))}
                {!closed && (
                  <form
                    className="flex items-start gap-3"
                    onSubmit={(event) => {
                      event.preventDefault();
                      conclude.go(cause.key);
                    }}
                  >
                    {cause.key !== first && (
                      <TextField
                        label={say`Why this one, against the reckoning`}
                        value={reason}
                        onChange={setReason}
                        error={conclude.refused?.for("reason")}
                        className="flex-1"
                      />
                    )}
                    <Button
                      type="submit"
                      weight={diagnosis.clear && cause.key === first ? "now" : "plain"}
                      disabled={conclude.pending}
                      className={cause.key === first ? "" : "mt-6"}
                    >
                      <Trans>Note this cause</Trans>
                    </Button>
                  </form>
                )}
              </div>
            )}
          </li>
        ))}
      </ol>
      {conclude.error && !(conclude.error instanceof Problem && conclude.error.for("reason")) && (
        <Notice kind="refusal">{sentenceOf(conclude.error)}</Notice>
      )}
    </section>
  );
}

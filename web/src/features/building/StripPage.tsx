import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { NumberField } from "@/ui/NumberField";
import { enter } from "@/write/outbox";
import { useEntries, type EntryOf, useLatest } from "@/write/useOutbox";
import { EntryNote } from "@/write/EntryNote";
import { typedNumber } from "@/ui/number";
import { useWrite, WriteState } from "@/write/useWrite";
import { touches } from "@/api/keys";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { answer, client, type Schemas } from "@/api/client";
import { ask } from "@/api/queries";
import { JobHead } from "@/app/JobHead";
import { Button, ButtonLink } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { shownForce } from "@/ui/forces";
import { NotYet } from "@/ui/NotYet";
import { Steps } from "./Steps";

const FACTS: readonly { key: keyof Schemas["StripFactsRequest"]; label: string; no: string; yes: string }[] =
  [
    { key: "washers", label: say`Rim washers`, no: say`none`, yes: say`washers` },
    { key: "closed_rim", label: say`Holes under the tyre`, no: say`open`, yes: say`closed rim` },
    { key: "cut", label: say`The old spokes are`, no: say`unscrewed`, yes: say`cut` },
    { key: "keep_spokes", label: say`and afterwards`, no: say`thrown away`, yes: say`used again` },
  ];

/** Taking the wheel apart: laps to slacken, the steps for this wheel, small parts counted out and in. */
export default function StripPage() {
  const { jobId = "" } = useParams();
  const job = useQuery(ask.job(jobId));
  const strip = useQuery(ask.stripping(jobId));
  const session = useQuery(ask.session());
  const at = { params: { path: { job_id: jobId } } };
  const facts = useWrite({
    touches: touches.job(jobId),
    send: (body: Schemas["StripFactsRequest"], head) =>
      answer(client.PUT("/api/v1/jobs/{job_id}/strip", { ...at, ...head, body })),
  });
  const steps = useLatest("strip_step", { job_id: jobId }, (e) => e.body.step);
  const counts = useEntries("strip_count", { job_id: jobId });
  if (!job.data || !strip.data) return <NotYet of={[job, strip]} what={say`the steps`} />;
  const closed = Boolean(job.data.handed_back_at);
  const found = strip.data;
  const unit = session.data?.force_unit ?? "N";
  return (
    <main className="flex flex-1 flex-col">
      <JobHead job={job.data} title={say`Taking it apart`}>
        <ButtonLink to={`/jobs/${jobId}/spokes`}>
          <Trans>Spokes and kit</Trans>
        </ButtonLink>
        <ButtonLink to={`/jobs/${jobId}/lacing`}>
          <Trans>Lace it</Trans>
        </ButtonLink>
      </JobHead>
      <div className="grid flex-1 grid-cols-1 gap-8 p-4 lg:grid-cols-[1fr_420px] low:py-2">
        <div className="flex flex-col gap-3">
          <div className="flex flex-wrap gap-4">
            {FACTS.map((f) => (
              <div key={f.key}>
                <p className="text-sm font-bold">{f.label}</p>
                <Choice
                  label={f.label}
                  value={found.facts[f.key] ? "yes" : "no"}
                  onChange={(v) => !closed && facts.go({ [f.key]: v === "yes" })}
                  small
                  options={[
                    { value: "no", text: f.no },
                    { value: "yes", text: f.yes },
                  ]}
                />
              </div>
            ))}
          </div>
          <WriteState of={facts} />
          <Steps
            label={say`Steps to take it apart`}
            steps={found.steps}
            closed={closed}
            pending={steps}
            onStep={(key, done) => enter("strip_step", { job_id: jobId }, { step: key, done })}
          />
        </div>
        <aside aria-label={say`Laps and counts`} className="flex flex-col gap-6">
          <Laps laps={found.laps} measured={found.measured} unit={unit} />
          <section aria-label={say`Small parts`} className="flex flex-col gap-3">
            <h2>
              <Trans>Counted out and in</Trans>
            </h2>
            {found.counts.map((t) => (
              <Count
                key={t.kind}
                jobId={jobId}
                tally={t}
                closed={closed}
                pending={counts.filter((e) => e.body.kind === t.kind)}
              />
            ))}
          </section>
        </aside>
      </div>
    </main>
  );
}

/** How the tensions fall, lap by lap: bars from the middle line, right filled and left hollow. */
function Laps({
  laps,
  measured,
  unit,
}: {
  laps: readonly Schemas["SlackLap"][];
  measured: boolean;
  unit: "N" | "kgf";
}) {
  if (laps.length === 0)
    return (
      <p>
        <Trans>Slack already.</Trans>
      </p>
    );
  const most = Math.max(...laps.map((l) => Math.max(l.right_n, l.left_n)), 1);
  return (
    <section aria-label={say`Laps to slacken`}>
      <h2>
        <Trans>{laps.length} laps of a quarter turn</Trans>
      </h2>
      <p className="text-sm text-muted">
        <Trans>
          Mean tension after each, {unit}, by the model
          {measured ? say` from the last readings` : say` from the target: nothing was read`}.
        </Trans>
      </p>
      <ol className="mt-2 flex flex-col gap-1">
        {laps.map((lap) => (
          <li key={lap.number} className="grid grid-cols-[1fr_56px_1fr] items-center gap-1 text-sm">
            <span className="flex items-center justify-end gap-1">
              <span className="font-figure">{shownForce(lap.left_n, unit)}</span>
              <span
                className={lap.left_n < 1 ? "" : "h-3 border-2 border-ink"}
                style={{ width: `${(lap.left_n / most) * 65}%` }}
              />
            </span>
            <span className="text-center">
              <Trans>lap {lap.number}</Trans>
            </span>
            <span className="flex items-center gap-1">
              <span className="h-3 bg-ink" style={{ width: `${(lap.right_n / most) * 65}%` }} />
              <span className="font-figure">{shownForce(lap.right_n, unit)}</span>
            </span>
          </li>
        ))}
      </ol>
      <p className="mt-1 grid grid-cols-2 text-sm text-muted">
        <span>
          <Trans>○ left</Trans>
        </span>
        <span className="text-right">
          <Trans>● right</Trans>
        </span>
      </p>
    </section>
  );
}

interface CountProps {
  tally: Schemas["Tally"];
  closed: boolean;
  jobId: string;
  pending: readonly EntryOf<"strip_count">[];
}

function Count({ tally, closed, jobId, pending }: CountProps) {
  const [text, setText] = useState("");
  const [slip, setSlip] = useState("");
  const refused = pending.find((e) => e.state === "refused");
  const unsent = pending.filter((e) => e.state === "waiting");
  const send = (way: "out" | "in") => {
    const number = typedNumber(text);
    if (number === null || !Number.isInteger(number) || number === 0)
      return setSlip(say`Enter how many, as a whole number.`);
    setSlip("");
    enter("strip_count", { job_id: jobId }, { kind: tally.kind, way, count: number });
    setText("");
  };
  return (
    <div className="border-t border-line pt-2">
      <p className="text-lg font-bold" aria-live="polite">
        {tally.word}
      </p>
      <p className="text-sm text-muted">
        <Trans>
          {tally.out} out, {tally.put_in} in, of {tally.places} places
          {tally.picked > 0 && say`; ${tally.picked} picked for this job`}
          {unsent.length > 0 &&
            say`; on their way: ${unsent.map((e) => `${e.body.count} ${e.body.way}`).join(", ")}`}
        </Trans>
      </p>
      <EntryNote entry={refused} />
      {!closed && (
        <form
          className="mt-1 flex items-start gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            send(tally.out < tally.was_in ? "out" : "in");
          }}
        >
          <NumberField
            label={say`How many ${tally.name}`}
            value={text}
            whole
            onChange={setText}
            error={slip || undefined}
            help={say`A minus takes a slip back.`}
            className="w-44"
          />
          <Button className="mt-6" onClick={() => send("out")}>
            <Trans>out</Trans>
          </Button>
          <Button className="mt-6" onClick={() => send("in")}>
            <Trans>in</Trans>
          </Button>
        </form>
      )}
    </div>
  );
}

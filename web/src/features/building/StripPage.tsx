import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { answer, client, type Schemas, writeKey } from "@/api/client";
import { Problem, sentenceOf } from "@/api/problem";
import { ask } from "@/api/queries";
import { BenchHead } from "@/features/bench/BenchHead";
import { Button, ButtonLink } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { TextField } from "@/ui/Field";
import { Notice } from "@/ui/Notice";
import { shownForce } from "@/ui/forces";
import { Waiting } from "@/ui/Waiting";
import { Steps } from "./Steps";

const FACTS: readonly { key: keyof Schemas["StripFactsRequest"]; label: string; no: string; yes: string }[] =
  [
    { key: "washers", label: "Rim washers", no: "none", yes: "washers" },
    { key: "closed_rim", label: "Holes under the tyre", no: "open", yes: "closed rim" },
    { key: "cut", label: "The old spokes are", no: "unscrewed", yes: "cut" },
    { key: "keep_spokes", label: "and afterwards", no: "thrown away", yes: "used again" },
  ];

/** Taking the wheel apart: laps to slacken, the steps for this wheel, small parts counted out and in. */
export default function StripPage() {
  const { jobId = "" } = useParams();
  const queries = useQueryClient();
  const job = useQuery(ask.job(jobId));
  const strip = useQuery(ask.stripping(jobId));
  const session = useQuery(ask.session());
  const at = { params: { path: { job_id: jobId } } };
  const head = () => ({ headers: { "Idempotency-Key": writeKey() } });
  const onSuccess = (found: Schemas["Strip"]) => queries.setQueryData(["strip", jobId], found);
  const facts = useMutation({
    mutationFn: (body: Schemas["StripFactsRequest"]) =>
      answer(client.PUT("/api/v1/jobs/{job_id}/strip", { ...at, ...head(), body })),
    onSuccess,
  });
  const step = useMutation({
    mutationFn: (body: Schemas["StepInRequest"]) =>
      answer(client.POST("/api/v1/jobs/{job_id}/strip/steps", { ...at, ...head(), body })),
    onSuccess,
  });
  const count = useMutation({
    mutationFn: (body: Schemas["CountInRequest"]) =>
      answer(client.POST("/api/v1/jobs/{job_id}/strip/counts", { ...at, ...head(), body })),
    onSuccess,
  });
  if (!job.data || !strip.data) return <Waiting what="the steps" />;
  const closed = Boolean(job.data.handed_back_at);
  const found = strip.data;
  const unit = session.data?.force_unit ?? "N";
  return (
    <main className="flex flex-1 flex-col">
      <BenchHead job={job.data} title="Taking it apart">
        <ButtonLink to={`/jobs/${jobId}/spokes`}>Spokes and kit</ButtonLink>
        <ButtonLink to={`/jobs/${jobId}/lacing`}>Lace it</ButtonLink>
      </BenchHead>
      <div className="grid flex-1 grid-cols-1 gap-8 p-4 lg:grid-cols-[1fr_420px]">
        <div className="flex flex-col gap-3">
          <div className="flex flex-wrap gap-4">
            {FACTS.map((f) => (
              <div key={f.key}>
                <p className="text-sm font-bold">{f.label}</p>
                <Choice
                  label={f.label}
                  value={found.facts[f.key] ? "yes" : "no"}
                  onChange={(v) => !closed && facts.mutate({ [f.key]: v === "yes" })}
                  small
                  options={[
                    { value: "no", text: f.no },
                    { value: "yes", text: f.yes },
                  ]}
                />
              </div>
            ))}
          </div>
          {step.isError && <Notice kind="refusal">{sentenceOf(step.error)}</Notice>}
          <Steps
            label="Steps to take it apart"
            steps={found.steps}
            closed={closed}
            busy={step.isPending}
            onStep={(key, done) => step.mutate({ step: key, done })}
          />
        </div>
        <aside aria-label="Laps and counts" className="flex flex-col gap-6">
          <Laps laps={found.laps} measured={found.measured} unit={unit} />
          <section aria-label="Small parts" className="flex flex-col gap-3">
            <h2>Counted out and in</h2>
            {found.counts.map((t) => (
              <Count key={t.kind} tally={t} closed={closed} count={count} />
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
  if (laps.length === 0) return <p>Slack already.</p>;
  const most = Math.max(...laps.map((l) => Math.max(l.right_n, l.left_n)), 1);
  return (
    <section aria-label="Laps to slacken">
      <h2>{laps.length} laps of a quarter turn</h2>
      <p className="text-sm text-muted">
        Mean tension after each, {unit}, by the model
        {measured ? " from the last readings" : " from the target: nothing was read"}.
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
            <span className="text-center">lap {lap.number}</span>
            <span className="flex items-center gap-1">
              <span className="h-3 bg-ink" style={{ width: `${(lap.right_n / most) * 65}%` }} />
              <span className="font-figure">{shownForce(lap.right_n, unit)}</span>
            </span>
          </li>
        ))}
      </ol>
      <p className="mt-1 grid grid-cols-2 text-sm text-muted">
        <span>○ left</span>
        <span className="text-right">● right</span>
      </p>
    </section>
  );
}

interface CountProps {
  tally: Schemas["Tally"];
  closed: boolean;
  count: ReturnType<typeof useMutation<Schemas["Strip"], Error, Schemas["CountInRequest"]>>;
}

function Count({ tally, closed, count }: CountProps) {
  const [text, setText] = useState("");
  const mine = count.variables?.kind === tally.kind;
  const refused = mine && count.error instanceof Problem ? count.error.message : undefined;
  const send = (way: "out" | "in") => {
    const number = Number(text);
    if (!Number.isInteger(number) || number === 0) return;
    count.mutate({ kind: tally.kind, way, count: number }, { onSuccess: () => setText("") });
  };
  return (
    <div className="border-t border-line pt-2">
      <p className="text-lg font-bold" aria-live="polite">
        {tally.word}
      </p>
      <p className="text-sm text-muted">
        {tally.out} out, {tally.put_in} in, of {tally.places} places
      </p>
      {!closed && (
        <form
          className="mt-1 flex items-start gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            send(tally.out < tally.was_in ? "out" : "in");
          }}
        >
          <TextField
            label={`How many ${tally.name}`}
            value={text}
            inputMode="numeric"
            onChange={setText}
            error={refused}
            help="A minus takes a slip back."
            className="w-44"
          />
          <Button className="mt-6" onClick={() => send("out")}>
            out
          </Button>
          <Button className="mt-6" onClick={() => send("in")}>
            in
          </Button>
        </form>
      )}
    </div>
  );
}

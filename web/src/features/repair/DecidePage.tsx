import { word } from "@/ui/words";
import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useMay } from "@/app/useMay";
import { useWrite } from "@/write/useWrite";
import { keys, touches } from "@/api/keys";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { answer, client, type Schemas } from "@/api/client";
import { sentenceOf } from "@/api/problem";
import { ask } from "@/api/queries";
import { Curve } from "@/features/bench/Curve";
import { JobHead } from "@/app/JobHead";
import { Button, ButtonLink } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { TextField } from "@/ui/Field";
import { money } from "@/ui/money";
import { Notice } from "@/ui/Notice";
import { dayAndTime } from "@/ui/when";
import { NotYet } from "@/ui/NotYet";
import { Options } from "./Options";

/** Can the spokes fix it, what does each way take and cost, and who agrees. */
export default function DecidePage() {
  const { jobId = "" } = useParams();
  const job = useQuery(ask.job(jobId));
  const options = useQuery(ask.options(jobId));
  const may = useMay();
  const [touched, setTouched] = useState<string[] | null>(null);
  if (!job.data || !options.data) return <NotYet of={[job, options]} what={say`the options`} />;
  const found = options.data;
  const closed = Boolean(job.data.handed_back_at);
  const latest = found.decisions[0];
  const proposed = found.options.filter((o) => o.proposed && !o.barred).map((o) => o.key);
  const chosen = touched ?? (latest ? latest.chosen : proposed);
  return (
    <main className="flex flex-1 flex-col">
      <JobHead job={job.data} title={say`Decide, for ${word(found.tier)}`}>
        <ButtonLink to={`/jobs/${jobId}/condition`}>
          <Trans>What was found</Trans>
        </ButtonLink>
      </JobHead>
      <div className="flex flex-1 flex-col gap-4 p-4">
        {found.unsafe.length > 0 && (
          <Notice kind="caution">
            <Trans>
              Not to be ridden as it stands. {found.unsafe.join(" ")}
              <Mended
                jobId={jobId}
                standing={options.data.cause_to_mend !== null && may("finding_mended")}
                closed={closed}
              />
            </Trans>
          </Notice>
        )}
        <Options
          options={found.options}
          currency={found.currency}
          chosen={chosen}
          onChoose={closed ? undefined : setTouched}
        />
        <div className="grid grid-cols-1 gap-6 lg:grid-cols-[minmax(0,460px)_1fr]">
          {found.curve ? (
            <Curve curve={found.curve} tier={found.tier} />
          ) : (
            <p className="text-muted">
              <Trans>
                Measure the wheel to see whether spokes can save this rim: at least eight readings.
              </Trans>
            </p>
          )}
          <div className="flex flex-col gap-3">
            {!closed && (
              <Word
                key={latest?.id ?? "first"}
                jobId={jobId}
                found={found}
                chosen={chosen}
                customer={job.data.customer.name}
              />
            )}
            {found.decisions.map((d) => (
              <Said key={d.id} decision={d} currency={found.currency} />
            ))}
          </div>
        </div>
      </div>
    </main>
  );
}

/** A cause that forbids riding is noted as put right here. */
function Mended({ jobId, standing, closed }: { jobId: string; standing: boolean; closed: boolean }) {
  const [how, setHow] = useState("");
  const send = useWrite({
    touches: touches.job(jobId),
    send: (_: void, head) =>
      answer(
        client.POST("/api/v1/jobs/{job_id}/mended", {
          params: { path: { job_id: jobId } },
          ...head,
          body: { note: how },
        }),
      ),
    fills: () => keys.ofJob(jobId, "options"),
  });
  if (closed || !standing) return null;
  return (
    <form
      className="mt-2 flex items-start gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        send.go();
      }}
    >
      <TextField
        label={say`Put right: what was done`}
        value={how}
        onChange={setHow}
        error={send.refused?.for("note") ?? send.refused?.message}
        className="w-96"
      />
      <Button type="submit" className="mt-6" disabled={send.pending}>
        <Trans>Note it as put right</Trans>
      </Button>
    </form>
  );
}

interface WordProps {
  jobId: string;
  found: Schemas["Options"];
  chosen: readonly string[];
  customer: string;
}

/** The customer's word: yes to what is chosen, or no with the warning that was given. */
function Word({ jobId, found, chosen, customer }: WordProps) {
  const [whom, setWhom] = useState(customer);
  const [how, setHow] = useState<Schemas["DecisionHowEnum"]>("counter");
  const [warning, setWarning] = useState("");
  const send = useWrite({
    touches: touches.job(jobId),
    send: (outcome: "approved" | "refused", head) =>
      answer(
        client.POST("/api/v1/jobs/{job_id}/decisions", {
          params: { path: { job_id: jobId } },
          ...head,
          body: { outcome, chosen: [...chosen], by_whom: whom, how, warning },
        }),
      ),
    onSaved: async () => {},
  });
  const problem = send.refused;
  const picked = found.options.filter((o) => chosen.includes(o.key));
  const prices = picked.map((o) => o.price_minor);
  const total = prices.includes(null) ? null : prices.reduce<number>((a, b) => a + (b ?? 0), 0);
  const warn = found.unsafe.length > 0 || picked.some((o) => o.barred);
  return (
    <section
      aria-label={say`The customer's word`}
      className="flex flex-col gap-3 rounded-md border border-line bg-plate p-4"
    >
      <p className="text-lg">
        <strong>{picked.map((o) => o.name).join(" and ") || say`Nothing chosen`}</strong>
        {picked.length > 0 && (
          <>
            , <span className="font-figure text-2xl font-bold">{money(total, found.currency)}</span>
          </>
        )}
      </p>
      <div className="flex flex-wrap items-start gap-3">
        <TextField
          label={say`Who says so`}
          value={whom}
          onChange={setWhom}
          error={problem?.for("by_whom")}
          className="w-64"
        />
        <Choice<Schemas["DecisionHowEnum"]>
          label={say`How it was said`}
          value={how}
          onChange={setHow}
          options={[
            { value: "counter", text: say`at the counter` },
            { value: "phone", text: say`by phone` },
            { value: "writing", text: say`in writing` },
          ]}
          className="mt-6"
        />
      </div>
      {warn && (
        <TextField
          label={say`The warning that was given`}
          value={warning}
          onChange={setWarning}
          error={problem?.for("warning")}
          help={say`Needed where the wheel is unsafe and the customer says no, or wants what is barred.`}
        />
      )}
      {problem && !problem.for("warning") && !problem.for("by_whom") && (
        <Notice kind="refusal">{sentenceOf(problem)}</Notice>
      )}
      <div className="flex gap-3">
        <Button
          weight="now"
          disabled={send.pending || picked.length === 0}
          onClick={() => send.go("approved")}
        >
          <Trans>Approved</Trans>
        </Button>
        <Button disabled={send.pending} onClick={() => send.go("refused")}>
          <Trans>Refused</Trans>
        </Button>
      </div>
    </section>
  );
}

function Said({ decision: d, currency }: { decision: Schemas["Decision"]; currency: string }) {
  return (
    <div className="border-l-4 border-ink pl-3">
      <p>
        <strong>{d.outcome === "approved" ? say`✓ Approved` : say`✗ Refused`}</strong>
        {d.chosen_names.length > 0 && `: ${d.chosen_names.join(" and ")}`}, {money(d.price_minor, currency)},{" "}
        {word(d.tier)}
      </p>
      <p className="text-sm text-muted">
        <Trans>
          by {d.by_whom},{" "}
          {{ counter: say`at the counter`, phone: say`by phone`, writing: say`in writing` }[d.how]},{" "}
          {dayAndTime(d.created_at)}; taken down by {d.by}
        </Trans>
      </p>
      {d.warning && (
        <p className="text-sm">
          <Trans>Warned: “{d.warning}”</Trans>
        </p>
      )}
    </div>
  );
}

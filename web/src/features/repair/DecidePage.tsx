import { word } from "@/ui/words";
import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useMay } from "@/app/useMay";
import { useWrite } from "@/write/useWrite";
import { keys, touches } from "@/api/keys";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { answer, client } from "@/api/client";
import { askMoney } from "@/api/moneyQueries";
import { ask } from "@/api/queries";
import { Curve } from "@/features/bench/Curve";
import { JobHead } from "@/app/JobHead";
import { Button, ButtonLink } from "@/ui/Button";
import { TextField } from "@/ui/Field";
import { Notice } from "@/ui/Notice";
import { IfFailed, NotYet } from "@/ui/NotYet";
import { CustomersWord, Said } from "./CustomersWord";
import { useRested } from "@/ui/useRested";
import { Options } from "./Options";
import { QuotePanel } from "./QuotePanel";

/** Can the spokes fix it, what does each way take and cost, and who agrees. */
export default function DecidePage() {
  const { jobId = "" } = useParams();
  const job = useQuery(ask.job(jobId));
  const options = useQuery(ask.options(jobId));
  const may = useMay();
  const [touched, setTouched] = useState<string[] | null>(null);
  const [warning, setWarning] = useState("");
  const toldWarning = useRested(warning);
  const proposed = options.data?.options.filter((o) => o.proposed && !o.barred).map((o) => o.key) ?? [];
  const chosen = touched ?? options.data?.decisions[0]?.chosen ?? proposed;
  const quote = useQuery({
    ...askMoney.quote(jobId, chosen, toldWarning),
    enabled: Boolean(options.data),
    placeholderData: (old) => old,
  });
  if (!job.data || !options.data) return <NotYet of={[job, options]} what={say`the options`} />;
  const found = options.data;
  const closed = Boolean(job.data.handed_back_at);
  const latest = found.decisions[0];
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
            {quote.isError && <IfFailed of={quote} />}
            {quote.data && <QuotePanel jobId={jobId} quote={quote.data} tier={found.tier} closed={closed} />}
            {!closed && quote.data && (
              <CustomersWord
                key={latest?.id ?? "first"}
                jobId={jobId}
                found={found}
                quote={quote.data}
                chosen={chosen}
                customer={job.data.customer.name}
                told={!quote.isPlaceholderData && toldWarning === warning}
                warning={warning}
                onWarning={setWarning}
              />
            )}
            {found.decisions.map((d, i) => (
              <Said
                key={d.id}
                decision={d}
                currency={found.currency}
                voided={i === 0 ? (quote.data?.void ?? "") : ""}
              />
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

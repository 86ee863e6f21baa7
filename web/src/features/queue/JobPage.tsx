import { Requirements } from "@/app/Requirements";
import { MovedOn } from "@/app/MovedOn";
import { UnsafeLine } from "@/app/Unsafe";
import { word } from "@/ui/words";
import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { IfFailed } from "@/ui/NotYet";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import type { Schemas } from "@/api/client";
import { Problem } from "@/api/problem";
import { ask } from "@/api/queries";
import { useMay } from "@/app/useMay";
import { TellCustomer } from "@/features/letters/TellCustomer";
import { ComebackPanel } from "@/features/records/ComebackPanel";
import { AccountPanel } from "@/features/repair/AccountPanel";
import { SET_NAMES } from "@/features/bench/names";
import { Button } from "@/ui/Button";
import { Notice } from "@/ui/Notice";
import { dayAndTime, dayName } from "@/ui/when";
import { NotYet } from "@/ui/NotYet";
import { WheelDrawing } from "@/wheelmap/WheelDrawing";
import { Counter } from "./Counter";
import { Ending } from "./Ending";
import { EditJob } from "./EditJob";
import { JobHistory } from "./JobHistory";
import { JobSpine } from "./JobSpine";
import { tierText } from "./tiers";
import { PromiseDialog } from "./PromiseDialog";
import { WorkBar } from "./WorkBar";
import { WAITING_ON } from "./stages";
import { figure } from "@/ui/number";

export default function JobPage() {
  const { jobId = "" } = useParams();
  const job = useQuery(ask.job(jobId));
  const trade = useQuery(ask.trade());
  if (job.error instanceof Problem) {
    return (
      <main className="p-8">
        <h1>
          <Trans>There is no such job</Trans>
        </h1>
        <p className="mt-2 text-muted">{job.error.message}</p>
      </main>
    );
  }
  if (!job.data || !trade.data) return <NotYet of={[job, trade]} what={say`the job`} />;
  return (
    <main className="grid flex-1 grid-cols-1 gap-6 p-4 lg:grid-cols-[1fr_360px]">
      <section aria-label={say`Stages`} className="flex flex-col gap-3">
        <UnsafeLine jobId={job.data.id} />
        <Head job={job.data} />
        <WorkBar job={job.data} stages={trade.data.stages} />
        <MovedOn job={job.data} />
        <LastMeasured job={job.data} />
        <ComebackPanel job={job.data} />
        <JobSpine job={job.data} stages={trade.data.stages} />
      </section>
      <aside className="flex flex-col gap-4" aria-label={say`The wheel and its history`}>
        <WheelDrawing
          derived={job.data.wheel.derived}
          selected=""
          className="mx-auto size-64"
          hanging={false}
        />
        <Link
          className="tap self-center underline underline-offset-4"
          to={`/wheels/${job.data.wheel.id}/history`}
        >
          <Trans>All that is known of this wheel</Trans>
        </Link>
        <BeforeLeaving job={job.data} />
        <TellCustomer job={job.data} />
        <AccountPanel jobId={job.data.id} />
        <Ending job={job.data} />
        <Counter job={job.data} />
        <RecordFile job={job.data} />
        <JobHistory job={job.data} stages={trade.data.stages} />
      </aside>
    </main>
  );
}

/** From the first stage on: what the wheel still lacks before it may leave. */
function BeforeLeaving({ job }: { job: Schemas["Job"] }) {
  const found = useQuery({ ...ask.requirements(job.id), enabled: !job.handed_back_at });
  if (found.isError) return <IfFailed of={found} />;
  return <Requirements of={found.data ?? []} />;
}

function Head({ job }: { job: Schemas["Job"] }) {
  const [editing, setEditing] = useState(false);
  const [promising, setPromising] = useState(false);
  const may = useMay();
  return (
    <div className="flex flex-col gap-2">
      <div className="flex flex-wrap items-center gap-4">
        <h1 className="job-tag flex items-baseline gap-3">
          <span className="font-figure text-3xl font-bold">{job.number}</span>
          <span className="text-lg">
            <Trans>
              {word(job.wheel.position)} wheel, {job.bike.label}
            </Trans>
          </span>
        </h1>
        <p>
          <Link to={`/customers/${job.customer.id}`} className="tap underline underline-offset-4">
            {job.customer.name}
          </Link>{" "}
          <span className="text-muted">{job.customer.phone}</span>
        </p>
        <a
          className="tap ml-auto text-sm underline underline-offset-4"
          href={`/api/v1/jobs/${job.id}/report`}
          target="_blank"
          rel="noreferrer"
        >
          <Trans>report</Trans>
        </a>
        <Link className="tap text-sm underline underline-offset-4" to={`/bikes/${job.bike.id}/spares`}>
          <Trans>spare-spoke card</Trans>
        </Link>
        {!job.handed_back_at && (
          <Button onClick={() => setEditing(true)}>
            <Trans>Change</Trans>
          </Button>
        )}
      </div>
      <p className="text-lg">“{job.complaint}”</p>
      <dl className="flex flex-wrap items-baseline gap-x-8 gap-y-1">
        {job.wanted_at && <Fact name={say`Wanted`}>{dayAndTime(job.wanted_at)}</Fact>}
        <Fact name={say`Promised`}>
          {job.promised_at ? dayAndTime(job.promised_at) : say`no day yet`}
          {may("promise_give") && !job.handed_back_at && !job.ready_at && (
            <Button weight="quiet" className="min-h-6 px-2" onClick={() => setPromising(true)}>
              {job.promised_at ? say`move …` : say`dates …`}
            </Button>
          )}
        </Fact>
        <Fact name={say`Tier`}>
          <span title={tierText(job.tolerance)}>{word(job.tier)}</span>
        </Fact>
        <Fact name={say`With`}>{job.assigned_to?.name ?? say`nobody yet`}</Fact>
        {job.load_kg && (
          <Fact name={say`Load`}>
            <Trans>{figure(job.load_kg)} kg</Trans>
          </Fact>
        )}
        {!job.with_bike && (
          <Fact name={say`Came`}>
            <Trans>without the bike</Trans>
          </Fact>
        )}
        {job.recheck_on && <Fact name={say`Look again`}>{dayName(new Date(job.recheck_on))}</Fact>}
        {job.waiting_on && <Fact name={say`Now`}>{WAITING_ON[job.waiting_on] ?? ""}</Fact>}
        {job.hook && <Fact name={say`Hook`}>{job.hook.name}</Fact>}
        {job.handed_back_at && <Fact name={say`Handed back`}>{dayAndTime(job.handed_back_at)}</Fact>}
      </dl>
      {promising && <PromiseDialog jobId={job.id} number={job.number} onClose={() => setPromising(false)} />}
      {editing && <EditJob job={job} onClose={() => setEditing(false)} />}
    </div>
  );
}

/** Where the wheel itself stands: the first line of its newest readings. */
function LastMeasured({ job }: { job: Schemas["Job"] }) {
  const sets = useQuery(ask.sets(job.id));
  const newest = sets.data?.at(-1);
  const state = useQuery({ ...ask.state(newest?.id ?? ""), enabled: Boolean(newest) });
  if (newest && state.isError) return <IfFailed of={state} />;
  if (!newest || !state.data || state.data.reading_count === 0) return null;
  return (
    <p className="border-l-4 border-ink pl-3">
      <span className="text-muted">
        <Trans>
          {SET_NAMES[newest.stage]}, set {newest.number}:{" "}
        </Trans>
      </span>
      <strong>{state.data.headline}</strong>
    </p>
  );
}

function Fact({ name, children }: { name: string; children: React.ReactNode }) {
  return (
    <div className="flex items-baseline gap-2">
      <dt className="text-muted">{name}</dt>
      <dd className="font-bold">{children}</dd>
    </div>
  );
}

function RecordFile({ job }: { job: Schemas["Job"] }) {
  return (
    <Notice kind="news">
      <Trans>
        The wheel&rsquo;s record is an open file, yours to keep:{" "}
        <a
          className="underline underline-offset-4"
          href={`/api/v1/jobs/${job.id}/record`}
          download={`wheel-${job.number}.json`}
        >
          save the wheel record
        </a>
        .
      </Trans>
    </Notice>
  );
}

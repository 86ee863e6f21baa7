import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import type { Schemas } from "@/api/client";
import { ask } from "@/api/queries";
import { askRecord } from "@/api/recordQueries";
import { useMay } from "@/app/useMay";
import { SET_NAMES } from "@/features/bench/names";
import { SpokeReadout } from "@/strip/SpokeReadout";
import { Strip } from "@/strip/Strip";
import { classes } from "@/ui/classes";
import { type ForceUnit, shownForce } from "@/ui/forces";
import { NotYet } from "@/ui/NotYet";
import { fullDay } from "@/ui/when";
import { within, headWord } from "@/ui/words";
import { BreaksList } from "./BreaksList";
import { Trail } from "./Trail";
import { Trend } from "./Trend";
import { figure } from "@/ui/number";

type History = Schemas["WheelHistory"];
type PastJob = History["jobs"][number];
type PastSet = PastJob["sets"][number];

/** All that the shop knows of a wheel: any two sets of readings over one another, its trend, its jobs, what broke. */
export default function WheelHistoryPage() {
  const { wheelId = "" } = useParams();
  const history = useQuery(askRecord.wheelHistory(wheelId));
  const session = useQuery(ask.session());
  const may = useMay();
  const [picked, setPicked] = useState<{ now?: string; then?: string }>({});
  if (!history.data || !session.data)
    return <NotYet of={[history, session]} what={say`the wheel’s history`} />;
  const found = history.data;
  const unit = session.data.force_unit ?? "N";
  const sets = found.jobs.flatMap((job) => job.sets.map((set) => ({ ...set, job })));
  const now = sets.find((set) => set.id === picked.now) ?? sets[0];
  // The last time it left is what the next visit is held against.
  const left = sets.find((set) => set.stage === "as_left" && set.job !== now?.job);
  const then = sets.find((set) => set.id === picked.then) ?? left ?? sets[1];
  return (
    <main className="flex min-w-0 flex-1 flex-col gap-5 p-4">
      <header className="flex flex-wrap items-baseline gap-x-6 gap-y-1">
        <h1>
          <Trans>
            {headWord(found.position)} wheel, {found.bike}
          </Trans>
        </h1>
        <Link to={`/customers/${found.customer_id}`} className="tap underline underline-offset-4">
          {found.customer}
        </Link>
        <span className="text-muted">
          <Trans>{found.spokes} spokes</Trans>
        </span>
        {may("bundle_wheel") && (
          <a
            className="tap text-sm underline underline-offset-4"
            href={`/api/v1/wheels/${found.wheel_id}/bundle`}
            download
          >
            <Trans>as a bundle for another shop</Trans>
          </a>
        )}
        {found.learnt && <span className="text-sm">{found.learnt}</span>}
      </header>
      {now ? (
        <Over now={now} then={then} unit={unit} />
      ) : (
        <p className="text-muted">
          <Trans>Nothing was ever measured on it.</Trans>
        </p>
      )}
      <div className="grid gap-x-8 gap-y-5 lg:grid-cols-[1fr_420px]">
        <section aria-label={say`Jobs`} className="flex min-w-0 flex-col gap-2">
          <h2>
            <Trans>Jobs</Trans>
          </h2>
          {sets.length > 1 && (
            <p className="text-sm text-muted">
              <Trans>● is drawn dark, ○ thin behind it: touch a circle to choose.</Trans>
            </p>
          )}
          {found.jobs.map((job) => (
            <JobLine
              key={job.id}
              job={job}
              unit={unit}
              now={now?.id}
              then={then?.id}
              onPick={(which, id) => setPicked((p) => ({ ...p, [which]: id }))}
            />
          ))}
        </section>
        <aside className="flex flex-col gap-5" aria-label={say`Trend and breaks`}>
          <Trend sets={sets} unit={unit} />
          <BreaksList of={found.breaks} />
          <Trail of="wheel" row={found.wheel_id} />
        </aside>
      </div>
    </main>
  );
}

interface OverProps {
  now: PastSet & { job: PastJob };
  then: (PastSet & { job: PastJob }) | undefined;
  unit: ForceUnit;
}

function Over({ now, then, unit }: OverProps) {
  const state = useQuery(ask.state(now.id));
  const ghost = useQuery({ ...ask.state(then?.id ?? ""), enabled: Boolean(then) });
  const [spoke, setSpoke] = useState("");
  if (!state.data) return <NotYet of={[state]} what={say`the readings`} />;
  const selected = spoke || (state.data.spokes[0]?.name ?? "");
  const alike = ghost.data?.spokes.length === state.data.spokes.length;
  return (
    <section aria-label={say`Two sets over one another`} className="-mx-2 min-w-0 overflow-x-clip">
      <Strip
        state={state.data}
        unit={unit}
        lanes={{ lateral: 96, radial: 66, tension: 130 }}
        selected={selected}
        onSelect={setSpoke}
        onPoint={setSpoke}
        over={
          alike
            ? [
                {
                  look: "ghost",
                  trace: ghost.data?.trace,
                  tension_n: ghost.data?.spokes.map((s) => s.tension_n),
                },
              ]
            : []
        }
      />
      <div className="flex flex-wrap items-baseline justify-between gap-x-6 px-2 text-sm">
        <SpokeReadout state={state.data} selected={selected} unit={unit} />
        <p>
          ● {titleOf(now)}
          {then && ghost.data && (
            <span className="ml-4 text-muted">
              ○ {titleOf(then)}
              {!alike && <> {say`(laced otherwise then)`}</>}
            </span>
          )}
        </p>
      </div>
    </section>
  );
}

function titleOf(set: PastSet & { job: PastJob }): string {
  const stage = within(SET_NAMES[set.stage as keyof typeof SET_NAMES]);
  return say`${set.job.number} ${stage}, ${fullDay(set.taken_at)}`;
}

interface JobLineProps {
  job: PastJob;
  unit: ForceUnit;
  now: string | undefined;
  then: string | undefined;
  onPick: (which: "now" | "then", id: string) => void;
}

function JobLine({ job, unit, now, then, onPick }: JobLineProps) {
  const facts = [
    job.cause && say`found: ${job.cause}`,
    job.turned > 0 && say`nipples turned: ${job.turned}`,
    job.parts.length > 0 && job.parts.join(", "),
    job.signed_by && say`signed off by ${job.signed_by}`,
  ].filter(Boolean);
  return (
    <article className="border-t border-line pt-2" aria-label={say`Job ${job.number}`}>
      <p className="flex flex-wrap items-baseline gap-x-3">
        <Link to={`/jobs/${job.id}`} className="job-tag tap font-figure font-bold">
          {job.number}
        </Link>
        <span>{fullDay(job.opened_at)}</span>
        <span>“{job.complaint}”</span>
        <span className="text-muted">
          {job.left_at ? (
            <Trans>
              left {fullDay(job.left_at)}, {job.ended}
            </Trans>
          ) : (
            <Trans>still here</Trans>
          )}
        </span>
      </p>
      {facts.length > 0 && <p className="text-sm text-muted">{facts.join(" · ")}</p>}
      {job.sets.length > 0 && (
        <div
          className="overflow-x-auto"
          tabIndex={0}
          role="region"
          aria-label={say`What was measured at this visit`}
        >
          <table className="mt-1 w-full text-sm tabular-nums">
            <thead className="text-left text-muted">
              <tr>
                <th scope="col" className="w-24 font-normal">
                  <Trans>shown</Trans>
                </th>
                <th scope="col" className="font-normal">
                  <Trans>set</Trans>
                </th>
                <th scope="col" className="px-2 text-right font-normal">
                  <Trans>lateral</Trans>
                </th>
                <th scope="col" className="px-2 text-right font-normal">
                  <Trans>radial</Trans>
                </th>
                <th scope="col" className="px-2 text-right font-normal">
                  <Trans>mean R / L, {unit}</Trans>
                </th>
                <th scope="col" className="pl-2 text-right font-normal">
                  <Trans>spread</Trans>
                </th>
              </tr>
            </thead>
            <tbody>
              {job.sets.map((set) => (
                <SetLine key={set.id} set={set} unit={unit} now={now} then={then} onPick={onPick} />
              ))}
            </tbody>
          </table>
        </div>
      )}
    </article>
  );
}

function SetLine({ set, unit, now, then, onPick }: Omit<JobLineProps, "job"> & { set: PastSet }) {
  const f = set.figures;
  const name = SET_NAMES[set.stage as keyof typeof SET_NAMES];
  const force = (value: number | null | undefined) => (value == null ? "–" : shownForce(value, unit));
  const foreseen = (value: number | null | undefined) =>
    value == null ? null : (
      <span className="block text-muted">
        <Trans>foreseen {figure(value, 2)}</Trans>
      </span>
    );
  return (
    <tr className="border-t border-line align-top">
      <td className="whitespace-nowrap">
        <Pick
          on={set.id === now}
          mark="●"
          label={say`Draw set ${set.number} dark`}
          onClick={() => onPick("now", set.id)}
        />
        <Pick
          on={set.id === then}
          mark="○"
          label={say`Draw set ${set.number} thin behind`}
          onClick={() => onPick("then", set.id)}
        />
      </td>
      <th scope="row" className="py-2 text-left font-normal">
        {name}{" "}
        <span className="text-muted">
          {fullDay(set.taken_at)}, {set.by}
        </span>
      </th>
      <td className="px-2 py-2 text-right">
        {f ? figure(f.lateral_tir_mm, 2) : "–"}
        {f && foreseen(set.foreseen_lateral_mm)}
      </td>
      <td className="px-2 py-2 text-right">
        {f ? figure(f.radial_tir_mm, 2) : "–"}
        {f && foreseen(set.foreseen_radial_mm)}
      </td>
      <td className="px-2 py-2 text-right whitespace-nowrap">
        {force(f?.right_mean_n)} / {force(f?.left_mean_n)}
      </td>
      <td className="py-2 pl-2 text-right">
        {f?.spread_percent == null ? "–" : `${figure(f.spread_percent, 0)} %`}
      </td>
    </tr>
  );
}

function Pick({
  on,
  mark,
  label,
  onClick,
}: {
  on: boolean;
  mark: string;
  label: string;
  onClick: () => void;
}) {
  return (
    <button
      type="button"
      aria-label={label}
      aria-pressed={on}
      onClick={onClick}
      className={classes("size-11 rounded-sm text-base", on ? "bg-ink text-face" : "text-muted")}
    >
      {mark}
    </button>
  );
}

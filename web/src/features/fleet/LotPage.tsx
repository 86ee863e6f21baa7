import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import type { Schemas } from "@/api/client";
import { askFleet } from "@/api/fleetQueries";
import { useMay } from "@/app/useMay";
import { ButtonLink } from "@/ui/Button";
import { Notice } from "@/ui/Notice";
import { NotYet } from "@/ui/NotYet";
import { LotDeeds } from "./LotDeeds";
import { SamplingDrawing } from "./SamplingDrawing";

type Item = Schemas["Item"];

const STATES = (): Record<Item["state"], string> => ({
  waits: say`waits`,
  bench: say`on the bench`,
  ready: say`ready`,
  returned: say`returned`,
  exception: say`set apart`,
});
/** Not by colour alone: each state has a mark of its own. */
const MARKS: Record<Item["state"], string> = {
  waits: "·",
  bench: "◐",
  ready: "●",
  returned: "✓",
  exception: "!",
};

/** Where the wheels of a lot stand, what the sample says of it, and what is done for many at once. */
export default function LotPage() {
  const { id: lotId = "" } = useParams();
  const lot = useQuery(askFleet.lot(lotId));
  const [picked, setPicked] = useState<ReadonlySet<string>>(new Set());
  if (!lot.data) return <NotYet of={[lot]} what={say`the lot`} />;
  const { items } = lot.data;
  const count = (state: Item["state"]) => items.filter((item) => item.state === state).length;
  const pick = (job: string) => {
    const next = new Set(picked);
    if (!next.delete(job)) next.add(job);
    setPicked(next);
  };
  const states = Object.keys(MARKS) as Item["state"][];
  return (
    <main className="flex flex-1 flex-col gap-4 p-4">
      <div className="flex flex-wrap items-baseline gap-x-6">
        <h1>{lot.data.name}</h1>
        <Link to={`/customers/${lot.data.customer_id}`} className="tap underline underline-offset-4">
          {lot.data.customer}
        </Link>
        <dl className="flex flex-wrap gap-x-5">
          {states.map((state) => (
            <div key={state} className="flex gap-1">
              <dt className="text-muted">
                {MARKS[state]} {STATES()[state]}
              </dt>
              <dd className="font-figure font-bold">{count(state)}</dd>
            </div>
          ))}
        </dl>
        <ButtonLink to={`/lots/${lotId}/labels`} className="ml-auto">
          <Trans>Labels</Trans>
        </ButtonLink>
      </div>
      <div className="grid grid-cols-1 gap-6 lg:grid-cols-[1fr_420px]">
        <section aria-label={say`The wheels`}>
          <ul className="grid grid-cols-[repeat(auto-fill,minmax(104px,1fr))] gap-2">
            {items.map((item) => (
              <Wheel key={item.job} item={item} picked={picked.has(item.job)} onPick={() => pick(item.job)} />
            ))}
          </ul>
        </section>
        <aside className="flex flex-col gap-4" aria-label={say`The lot as a whole`}>
          <Sampling lot={lot.data} />
          {lot.data.batch.breaks > 0 && (
            <Notice
              kind={
                lot.data.batch.points_to === "batch" || lot.data.batch.points_to === "more"
                  ? "caution"
                  : "news"
              }
            >
              {lot.data.batch.why}
            </Notice>
          )}
          <LotDeeds lot={lot.data} picked={picked} onDone={() => setPicked(new Set())} />
        </aside>
      </div>
    </main>
  );
}

function Wheel({ item, picked, onPick }: { item: Item; picked: boolean; onPick: () => void }) {
  const gone = item.state === "returned";
  const sampled = gone || !item.sample ? undefined : item.sample === "good" ? say`✓ good` : say`✗ bad`;
  return (
    <li
      className={`flex flex-col rounded-sm border p-1 ${picked ? "border-2 border-ink bg-tag text-tag-ink" : "border-line bg-plate"} ${gone ? "text-muted" : ""}`}
    >
      <label className="flex min-h-11 cursor-pointer items-center gap-2">
        <input
          type="checkbox"
          className="size-5 accent-ink"
          checked={picked}
          disabled={gone}
          onChange={onPick}
          aria-label={say`Pick ${item.label}`}
        />
        <strong className="truncate font-figure">{item.label}</strong>
        <span
          aria-hidden
          className={item.state === "exception" ? "ml-auto font-bold text-danger" : "ml-auto"}
        >
          {MARKS[item.state]}
        </span>
      </label>
      <Link
        to={`/jobs/${item.job}`}
        className="flex min-h-11 items-center justify-between text-sm underline-offset-4 hover:underline"
      >
        <span className="font-figure">{item.number}</span>
        <span className="truncate pl-1" title={item.reason || item.sample_why}>
          {item.state === "exception" ? item.reason : (sampled ?? STATES()[item.state])}
        </span>
      </Link>
    </li>
  );
}

function Sampling({ lot }: { lot: Schemas["Lot"] }) {
  const { sampling } = lot;
  const may = useMay();
  const next = lot.items.find((item) => item.job === lot.next_to_measure[0]);
  const said = {
    good: say`The lot is good`,
    bad: say`The lot is bad`,
    between: say`Neither good nor bad`,
    go_on: say`Not decided yet`,
  }[sampling.lot_is];
  return (
    <section aria-label={say`The sample`} className="rounded-md border border-line bg-plate p-3">
      <h2 className="text-lg font-bold">{said}</h2>
      <p>{sampling.why}</p>
      <SamplingDrawing sampling={sampling} />
      {sampling.lot_is === "go_on" && next && (
        <p className="flex flex-wrap items-center gap-3">
          <Trans>
            Next, as drawn by lot: <strong className="font-figure text-xl">{next.label}</strong>
          </Trans>
          {may("reading_set_open") && (
            <ButtonLink to={`/jobs/${next.job}`} weight="now">
              <Trans>Measure a few spokes</Trans>
            </ButtonLink>
          )}
        </p>
      )}
      <p className="mt-2 text-sm text-muted">{sampling.rule}</p>
    </section>
  );
}

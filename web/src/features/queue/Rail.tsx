import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { type ComponentType, lazy, Suspense, useState } from "react";
import { Link, useOutletContext } from "react-router";
import type { Schemas } from "@/api/client";
import { ask } from "@/api/queries";
import type { ShellPlace } from "@/app/Shell";
import { useMay } from "@/app/useMay";
import { Choice } from "@/ui/Choice";
import { NotYet } from "@/ui/NotYet";
import { dayAndTime } from "@/ui/when";
import { word } from "@/ui/words";
import { DeskList } from "./DeskList";
import { NextWheel } from "./NextWheel";
import { RailLine } from "./RailLine";
import { ReadyPlace } from "./ReadyPlace";

// Only a shop's first day has it; where it cannot be had, the rail is as good without it.
const FirstDay = lazy<ComponentType>(() =>
  import("@/help/FirstDay").then(
    (found) => ({ default: found.FirstDay }),
    () => ({ default: () => null }),
  ),
);

type View = "all" | "mine" | "danger" | "waits";

/** Which wheel next, what waits on what, which promise is in danger. */
export default function Rail() {
  const rail = useQuery(ask.rail());
  const trade = useQuery(ask.trade());
  const session = useQuery(ask.session());
  const { openFind } = useOutletContext<ShellPlace>();
  const may = useMay();
  const [view, setView] = useState<View>("all");
  if (!rail.data || !trade.data || !session.data)
    return <NotYet of={[rail, trade, session]} what={say`the rail`} />;
  const { hanging, handed_back } = rail.data;
  const me = session.data.id;
  const views: Record<View, Schemas["Hanging"][]> = {
    all: hanging,
    mine: hanging.filter((h) => h.job.assigned_to?.id === me || h.in_hand?.person_id === me),
    danger: hanging.filter((h) => h.level === "danger" || h.level === "late"),
    waits: hanging.filter((h) => h.job.waiting_on),
  };
  const desk = !may("take_up");
  return (
    <main className="flex flex-1 flex-col gap-4 p-4 max-sm:p-3">
      <h1 className="sr-only">
        <Trans>The rail</Trans>
      </h1>
      {desk ? (
        <DeskList rail={rail.data} />
      ) : (
        <NextWheel rail={rail.data} stages={trade.data.stages} calls={may("promise_give")} />
      )}
      <div className="flex flex-wrap items-center gap-3">
        <button
          type="button"
          onClick={openFind}
          className="min-h-12 min-w-64 flex-1 rounded-sm border border-line-strong bg-plate px-3 text-left text-muted"
        >
          <Trans>Find a wheel: number, name, telephone, bike …</Trans>
        </button>
        <Choice
          label={say`Which wheels`}
          value={view}
          onChange={setView}
          options={[
            { value: "all", text: say`All ${views.all.length}` },
            ...(desk ? [] : [{ value: "mine" as const, text: say`Mine ${views.mine.length}` }]),
            { value: "danger", text: say`In danger ${views.danger.length}` },
            { value: "waits", text: say`Waiting ${views.waits.length}` },
          ]}
        />
      </div>
      <RailLine rail={rail.data} hanging={views[view]} stages={trade.data.stages} all={view === "all"} />
      {view === "all" && views.all.length + rail.data.ready.length + handed_back.length === 0 && (
        <Suspense fallback={null}>
          <FirstDay />
        </Suspense>
      )}
      <ReadyPlace ready={rail.data.ready} />
      <HandedBack jobs={handed_back} />
    </main>
  );
}

function HandedBack({ jobs }: { jobs: readonly Schemas["RailJob"][] }) {
  if (jobs.length === 0) return null;
  return (
    <section aria-label={say`Handed back`}>
      <h2 className="text-base">
        <Trans>Handed back</Trans>
      </h2>
      <ul className="mt-1 flex flex-wrap gap-x-6 text-sm">
        {jobs.map((job) => (
          <li key={job.id}>
            <Link to={`/jobs/${job.id}`} className="tap gap-1.5 underline underline-offset-4">
              <span className="font-figure font-bold">{job.number}</span> {job.bike}
            </Link>{" "}
            {job.left_with && (
              <strong className="text-danger">
                {job.left_with === "unsafe" ? say`not to be ridden` : say`with something missing`}{" "}
              </strong>
            )}
            <span className="text-muted">
              {job.ended_as !== "repaired" && `${word(job.ended_as)}, `}
              {job.handed_back_at ? dayAndTime(job.handed_back_at) : ""}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

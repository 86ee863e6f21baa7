import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useMay } from "@/app/useMay";
import { WriteState } from "@/write/useWrite";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import type { Schemas } from "@/api/client";
import { ask } from "@/api/queries";
import { Checks } from "./Checks";
import { SET_NAMES } from "./names";
import { SpokeReadout } from "@/strip/SpokeReadout";
import { Strip } from "@/strip/Strip";
import { Button, ButtonLink } from "@/ui/Button";
import { type ForceUnit, shownForce, signed } from "@/ui/forces";
import { Notice } from "@/ui/Notice";
import { NotYet } from "@/ui/NotYet";
import { JobHead } from "@/app/JobHead";
import { DishDialog } from "./DishDialog";
import { PlanMaker } from "./PlanMaker";
import { RimVerdict } from "./RimVerdict";
import { useGhost } from "./useGhost";
import { type Tried, usePlanOfTurns, useWhatIf, WhatIfBar } from "./WhatIf";
import { figure } from "@/ui/number";
import { within } from "@/ui/words";

export default function StatePage() {
  const { jobId = "", setId = "" } = useParams();
  const job = useQuery(ask.job(jobId));
  const set = useQuery(ask.set(setId));
  const state = useQuery(ask.state(setId));
  const session = useQuery(ask.session());
  const advice = useQuery(ask.advice(setId));
  const pass = useQuery(ask.passBefore(setId));
  const ghost = useGhost(jobId, setId, state.data);
  const [picked, setPicked] = useState("");
  const [tried, setTried] = useState<Tried | null>(null);
  const tryout = useWhatIf(setId, tried);
  const planOf = usePlanOfTurns(jobId, setId);
  const may = useMay();
  if (!job.data || !set.data || !state.data || !session.data)
    return <NotYet of={[job, set, state, session]} what={say`the state of the wheel`} />;
  const unit = session.data.force_unit ?? "N";
  const worst = state.data.spokes.reduce((a, b) =>
    Math.abs(b.percent_of_mean) > Math.abs(a.percent_of_mean) ? b : a,
  );
  const selected = picked || worst.name;

  const foreseen = tried === null ? pass.data?.foreseen : Object.keys(tried).length > 0 ? tryout.data : null;
  return (
    <main className="flex flex-1 flex-col">
      <JobHead
        job={job.data}
        title={say`State: ${within(SET_NAMES[set.data.stage])}, set ${set.data.number}`}
      >
        <ButtonLink to={`/jobs/${jobId}/readings/${setId}`}>
          <Trans>Readings</Trans>
        </ButtonLink>
        <Button aria-pressed={tried !== null} onClick={() => setTried(tried === null ? {} : null)}>
          <Trans>What if</Trans>
        </Button>
        {!job.data.handed_back_at && <DishDialog jobId={jobId} setId={setId} unit={unit} />}
        {!job.data.handed_back_at && <PlanMaker jobId={jobId} setId={setId} state={state.data} unit={unit} />}
      </JobHead>
      <div className="flex flex-col gap-2 px-4 pt-2">
        <div className="flex flex-wrap items-baseline gap-x-6">
          <p className="text-xl font-bold">{state.data.headline}</p>
          {tried === null && (
            <RimVerdict setId={setId} tier={state.data.tier.name} enough={state.data.reading_count >= 8} />
          )}
        </div>
        {(advice.data?.doubts.length ?? 0) > 0 && (
          <Notice kind="caution">{advice.data?.doubts.join(" ")}</Notice>
        )}
        {tried === null && pass.data?.made && (
          <p className={pass.data.as_foreseen ? "text-sm" : "text-sm font-bold"}>{pass.data.said}</p>
        )}
        {tried === null && <Checks checks={state.data.checks} dishMm={state.data.dish_mm} />}
        {tried === null ? (
          <Sides state={state.data} unit={unit} />
        ) : (
          <WhatIfBar
            selected={selected}
            tried={tried}
            found={tryout.data}
            error={tryout.error}
            onTry={setTried}
            onEnd={() => setTried(null)}
            onPlan={
              may("plan_make") && !job.data.handed_back_at && !planOf.pending
                ? () => planOf.go(tried)
                : undefined
            }
          />
        )}
        <WriteState of={planOf} />
      </div>
      <div className="flex grow flex-col px-2 pt-2">
        <Strip
          state={state.data}
          unit={unit}
          lanes={{ lateral: 66, radial: 46, tension: 96 }}
          selected={selected}
          onSelect={setPicked}
          // While turns are tried, only a touch or an arrow chooses the spoke.
          {...(tried === null ? { onPoint: setPicked } : {})}
          over={[...ghost.over, { look: "foreseen", ...foreseen }]}
        />
      </div>
      <div className="flex flex-wrap items-center justify-between gap-4 px-4 py-1">
        <SpokeReadout state={state.data} selected={selected} unit={unit} />
        <Legend
          ghost={ghost.said}
          dotted={
            tried !== null ? say`after these turns` : pass.data?.made ? say`what the last plan foresaw` : ""
          }
        />
      </div>
    </main>
  );
}

function Sides({ state, unit }: { state: Schemas["State"]; unit: ForceUnit }) {
  const side = (name: "R" | "L") => {
    const s = state.sides[name];
    return (
      <span>
        <Trans>
          <strong>{name === "R" ? say`● Right` : say`○ Left`}</strong> mean{" "}
          <span className="font-figure">{shownForce(s.mean_n, unit)}</span> {unit} (target{" "}
          <span className="font-figure">{shownForce(s.target_n, unit)}</span>), worst {s.worst_spoke}{" "}
          <span className="font-figure">{signed(s.worst_percent, 0)}</span> %, {s.outside.length} outside ±
          {figure(state.tier.tension_percent)} %
        </Trans>
      </span>
    );
  };
  return (
    <div className="flex flex-wrap items-center gap-x-8 gap-y-1 text-sm">
      {side("R")}
      {side("L")}
      <span>
        <Trans>
          Left over right, as read,{" "}
          <span className="font-figure">{figure(state.ratio.measured, 2) ?? "–"}</span>; statics asks{" "}
          <span className="font-figure">{figure(state.ratio.expected, 2)}</span>
        </Trans>
      </span>
      {state.tension_is_default && (
        <span className="text-muted">
          <Trans>
            Limit {shownForce(state.cap_n, unit)} {unit} is Felloe&rsquo;s default: the rim maker&rsquo;s
            figure comes first
          </Trans>
        </span>
      )}
      {state.ratio.warns && (
        <Notice kind="caution">
          <Trans>
            The sides differ {signed(state.ratio.difference_percent ?? 0, 0)} % from what the geometry asks:
            check dish, spacers and the hub&rsquo;s dimensions before turning spokes.
          </Trans>
        </Notice>
      )}
    </div>
  );
}

export function Legend({ ghost, dotted = "" }: { ghost: string; dotted?: string }) {
  return (
    <p className="flex flex-wrap gap-x-4 text-sm text-muted">
      <span>
        <Trans>+ read</Trans>
      </span>
      <span>
        <Trans>shaded: how sure</Trans>
      </span>
      <span>
        <Trans>green: allowed</Trans>
      </span>
      {ghost && (
        <span>
          <Trans>thin line: {ghost}</Trans>
        </span>
      )}
      {dotted && (
        <span>
          <Trans>dotted: {dotted}</Trans>
        </span>
      )}
    </p>
  );
}

import { word } from "@/ui/words";
import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useMay } from "@/app/useMay";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Navigate, useParams } from "react-router";
import type { Schemas } from "@/api/client";
import { ask } from "@/api/queries";
import { Strip } from "@/strip/Strip";
import { Button, ButtonLink } from "@/ui/Button";
import { shownForce } from "@/ui/forces";
import { Notice } from "@/ui/Notice";
import { NotYet } from "@/ui/NotYet";
import { WheelDrawing } from "@/wheelmap/WheelDrawing";
import { JobHead } from "@/app/JobHead";
import { claimed } from "./claims";
import { MoveCard } from "./MoveCard";
import { NextSet, WalkDone } from "./NextSet";
import { SoundKey } from "./SoundKey";
import { ResumeFirst } from "./ResumeFirst";
import { PrintedTurns } from "./PrintedTurns";
import { Legend } from "./StatePage";
import { enter } from "@/write/outbox";
import { useLatest, useOutbox } from "@/write/useOutbox";
import { movesWith, onePerSpoke } from "./pendingMoves";
import { figure } from "@/ui/number";

export default function PlanPage() {
  const { jobId = "", planId = "" } = useParams();
  const job = useQuery(ask.job(jobId));
  const plan = useQuery(ask.plan(planId));
  const state = useQuery({ ...ask.state(plan.data?.reading_set_id ?? ""), enabled: Boolean(plan.data) });
  const session = useQuery(ask.session());
  if (!job.data || !plan.data || !state.data || !session.data)
    return <NotYet of={[job, plan, state, session]} what={say`the plan`} />;
  // A pass that is still worked live has a bench of its own.
  if (plan.data.live === "open") return <Navigate to={`/jobs/${jobId}/live/${planId}`} replace />;
  return (
    <PlanBench job={job.data} plan={plan.data} state={state.data} unit={session.data.force_unit ?? "N"} />
  );
}

interface PlanBenchProps {
  job: Schemas["Job"];
  plan: Schemas["Plan"];
  state: Schemas["State"];
  unit: "N" | "kgf";
}

function PlanBench({ job, plan, state, unit }: PlanBenchProps) {
  const pending = useLatest("move", { plan_id: plan.id }, (e) => e.target["spoke"] ?? "");
  const moves = movesWith(plan.moves, pending);
  const unsent = [...pending.values()].filter((e) => e.state === "waiting").length;
  const firstOpen = moves.findIndex((m) => m.state === "todo");
  // It begins at the first open one, once what waits on the tablet is known; what others turn moves nobody's card after that.
  const { known } = useOutbox();
  const [begun, setAt] = useState<number>();
  const at = begun ?? Math.max(0, firstOpen);
  if (known && begun === undefined) setAt(at);
  const [looked, setLooked] = useState("");
  // The finished walk is looked through again, nipple by nipple.
  const [again, setAgain] = useState(false);
  const move = moves[at];
  const done = moves.filter((m) => m.state !== "todo").length;
  const selected = looked || (move?.spoke ?? state.spokes[0]?.name ?? "R1");
  // A turn that is asked about is looked at again, however far the walk has gone on since.
  const doubted = [...pending.values()].find((e) => e.refusal?.code === "turned_already")?.target["spoke"];
  const [asked, setAsked] = useState<string>();
  if (doubted !== asked) {
    setAsked(doubted);
    const index = moves.findIndex((m) => m.key === doubted);
    if (index >= 0) setAt(index);
  }
  const may = useMay();
  const closed = Boolean(job.handed_back_at) || !may("move_mark");

  const go = (index: number) => {
    setLooked("");
    if (done === moves.length) setAgain(true);
    setAt(Math.max(0, Math.min(moves.length - 1, index)));
  };
  const onMark = (
    key: string,
    what: Schemas["PlanMoveStateEnum"],
    turns?: number,
    instead?: "more" | "replace",
  ) => {
    enter(
      "move",
      { plan_id: plan.id, spoke: key, job_id: job.id },
      {
        state: what,
        ...(turns === undefined ? {} : { done_turns: turns }),
        ...(instead === undefined ? {} : { instead }),
      },
    );
    setAgain(false);
    setLooked("");
    if (what !== "todo") setAt(Math.min(moves.length - 1, at + 1));
  };
  const select = (name: string) => {
    const index = moves.findIndex((m) => m.spoke === name);
    if (index >= 0) go(index);
    else setLooked(name);
  };

  return (
    <>
      <main className="flex flex-1 flex-col print:hidden">
        <JobHead job={job} title={say`Plan for ${word(plan.tier)}`}>
          <Button onClick={() => window.print()}>
            <Trans>Print the turns</Trans>
          </Button>
          <SoundKey compact />
          <p className="self-center font-figure text-xl font-bold" role="status">
            <Trans>
              {done} of {moves.length}
              {unsent > 0 && (
                <span className="text-base text-muted">
                  <Trans>, {unsent} not sent yet</Trans>
                </span>
              )}
            </Trans>
          </p>
          {!closed && <NextSet jobId={job.id} weight={done === moves.length ? "now" : "plain"} />}
        </JobHead>
        {plan.outdated && !closed && (
          <div className="flex flex-wrap items-center gap-3 px-4 pt-2">
            <Notice kind="caution">{plan.outdated}</Notice>
            <ButtonLink to={`/jobs/${job.id}/state/${plan.reading_set_id}`}>
              <Trans>State, then plan</Trans>
            </ButtonLink>
          </div>
        )}
        {!closed && done > 0 && done < moves.length && (
          <ResumeFirst jobId={job.id} planId={plan.id} unit={unit} />
        )}
        {plan.caution && (
          <div className="px-4 pt-2">
            <Notice kind="caution">{plan.caution}</Notice>
          </div>
        )}
        <p className="px-4 pt-1 text-sm max-md:order-1">
          {plan.chance !== null && (
            <strong>
              {plan.unread.length > 0 ? (
                <Trans>
                  {Math.round(plan.chance * 100)} % to be inside {word(plan.tier)} after it in {claimed(plan)}{" "}
                  alone, about {Math.round(plan.minutes ?? 0)} min.
                </Trans>
              ) : (
                <Trans>
                  {Math.round(plan.chance * 100)} % to be inside {word(plan.tier)} after it, about{" "}
                  {Math.round(plan.minutes ?? 0)} min.
                </Trans>
              )}{" "}
            </strong>
          )}
          <Trans>
            {plan.reason} Highest tension on the way: {plan.worst_spoke},{" "}
            {shownForce(plan.worst_tension_n, unit)} {unit}, limit {shownForce(state.cap_n, unit)}
            {state.tension_is_default ? say` (default)` : ""}.
            {plan.laps > 1 && say` Walk ${plan.laps} laps: some nipples wait until others are eased.`}
            {plan.learnt && ` ${learntText(plan.learnt)}`}
          </Trans>
        </p>
        <div className="grid grid-cols-[auto_minmax(0,1fr)] gap-x-6 px-4 pt-2 max-md:grid-cols-1 max-sm:px-2">
          <WheelDrawing
            derived={job.wheel.derived}
            selected={selected}
            className="size-[232px] low:size-[200px] max-md:hidden"
          />
          {!closed && done === moves.length && !again && !looked && moves.length > 0 ? (
            <WalkDone jobId={job.id} onBack={() => setAgain(true)} />
          ) : move && !looked ? (
            <MoveCard
              key={move.key}
              move={move}
              place={at + 1}
              total={moves.length}
              step={plan.step_turns}
              unit={unit}
              blade={job.wheel.derived.sides[move.spoke.startsWith("R") ? "R" : "L"].spoke_kind.startsWith(
                "blade",
              )}
              closed={closed}
              onMark={onMark}
              onGo={(by) => go(at + by)}
              entry={pending.get(move.key)}
              asPlanned={moves.slice(0, at).every((m) => m.state === "todo" || m.state === "done")}
            />
          ) : (
            <div className="flex flex-col items-start justify-center gap-3">
              {moves.length === 0 ? (
                <p className="text-xl">{plan.reason}</p>
              ) : (
                <>
                  <p className="text-2xl font-bold">
                    <Trans>{looked} stays as it is.</Trans>
                  </p>
                  <Button onClick={() => go(at)}>
                    <Trans>Back to {move?.spoke}</Trans>
                  </Button>
                </>
              )}
            </div>
          )}
        </div>
        <section aria-label={say`The plan on the wheel`} className="flex grow flex-col px-2 pt-1">
          <Strip
            state={state}
            unit={unit}
            // What stands above takes its room from the drawing: the bench fits the screen without scrolling.
            lanes={{ lateral: 46, radial: 40, tension: 72, turns: 58 }}
            selected={selected}
            onSelect={select}
            over={[{ look: "foreseen", ...plan.predicted }]}
            moves={onePerSpoke(moves)}
          />
          <div className="px-2 low:hidden">
            <Legend ghost="" dotted={say`after the plan`} />
          </div>
        </section>
      </main>
      <PrintedTurns job={job} plan={plan} unit={unit} />
    </>
  );
}

/** What the last pass taught, in one sentence; nipples that did not do their share are named. */
function learntText(learnt: NonNullable<Schemas["Plan"]["learnt"]>): string {
  const factor = (f: number) => `${figure(f, 2)} ×`;
  const names = learnt.shirkers.map((s) => String(s["spoke"]));
  const said = say`This rim answered as one ${factor(learnt.ei_lat)} as stiff sideways, ${factor(learnt.ei_rad)} in its plane: counted in.`;
  return names.length
    ? say`${said} Did not do their share: ${names.join(", ")}; look for twist, slip or a wrong thread.`
    : said;
}

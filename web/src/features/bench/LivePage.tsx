import { word } from "@/ui/words";
import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import { answer, client, type Schemas } from "@/api/client";
import { fill } from "@/api/fill";
import { keys, touches } from "@/api/keys";
import { ask } from "@/api/queries";
import { useMay } from "@/app/useMay";
import { JobHead } from "@/app/JobHead";
import { Strip } from "@/strip/Strip";
import type { Move } from "@/strip/types";
import { Button, ButtonLink } from "@/ui/Button";
import type { ForceUnit } from "@/ui/forces";
import { Fraction } from "@/ui/Fraction";
import { Notice } from "@/ui/Notice";
import { NotYet } from "@/ui/NotYet";
import { useWrite, WriteState } from "@/write/useWrite";
import { WheelDrawing } from "@/wheelmap/WheelDrawing";
import { DialMenu } from "./DialMenu";
import { SoundKey } from "./SoundKey";
import { LiveCard } from "./LiveCard";
import { LiveFigures } from "./LiveFigures";
import { LiveLook } from "./LiveLook";
import { type Deed, sendDeed } from "./liveDeeds";
import { LiveRead } from "./LiveRead";
import { LumpDialog } from "./LumpDialog";
import { Legend } from "./StatePage";
import { turnsText } from "./turns";
import { useDial } from "./useDial";

type Step = Schemas["LiveStep"];

export default function LivePage() {
  const { jobId = "", planId = "" } = useParams();
  const job = useQuery(ask.job(jobId));
  const live = useQuery(ask.livePass(planId));
  const session = useQuery(ask.session());
  const found = useQuery({ ...ask.state(live.data?.reading_set_id ?? ""), enabled: Boolean(live.data) });
  const instruments = useQuery(ask.instruments());
  if (!job.data || !live.data || !session.data || !instruments.data)
    return <NotYet of={[job, live, session, instruments]} what={say`live truing`} />;
  return (
    <LiveBench
      job={job.data}
      step={live.data}
      found={found.data}
      streaming={instruments.data.filter((i) => i.address)}
      unit={session.data.force_unit ?? "N"}
    />
  );
}

interface LiveBenchProps {
  job: Schemas["Job"];
  step: Step;
  found: Schemas["State"] | undefined;
  streaming: readonly Schemas["Instrument"][];
  unit: ForceUnit;
}

function LiveBench({ job, step, found, streaming, unit }: LiveBenchProps) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  const may = useMay();
  const [dial, setDial] = useDial(streaming);
  const [skipped, setSkipped] = useState(0);
  const [again, setAgain] = useState(0);
  const [unsuspected, setUnsuspected] = useState(0);
  const [open, setOpen] = useState<"" | "lump" | "read">("");
  const [picked, setPicked] = useState("");
  const path = { plan_id: step.plan_id };
  const show = (next: Step) => {
    setPicked("");
    fill(queries, keys.livePass(next.plan_id), next);
  };
  // Somebody else went on: what they did is shown, and nothing of this press is done.
  const refresh = () => void queries.invalidateQueries({ queryKey: keys.livePass(step.plan_id) });
  const deed = useWrite({
    send: (what: Deed, head) => sendDeed(what, path, step.version, head),
    onSaved: show,
    onRefused: refresh,
  });
  const end = useWrite({
    touches: touches.job(job.id),
    send: (_: true, head) =>
      answer(
        client.POST("/api/v1/plans/{plan_id}/live/end", {
          params: { path },
          ...head,
          body: { version: step.version },
        }),
      ),
    onSaved: async (ended) => {
      await navigate(`/jobs/${job.id}/state/${ended.ended_set_id ?? ended.reading_set_id}`);
    },
    onRefused: refresh,
  });
  const closed = step.ended || Boolean(job.handed_back_at) || !may("live_turned");
  const looking = !closed && (again === step.version || (!step.looked && skipped !== step.version));
  const busy = deed.pending || end.pending;
  const selected = picked || (looking ? step.last?.spoke : step.next?.spoke) || step.last?.spoke || "R1";
  const suspect = unsuspected === step.version ? null : step.suspect;
  return (
    <main className="flex flex-1 flex-col">
      <JobHead job={job} title={say`Live, to ${word(step.tier)}`}>
        <SoundKey compact />
        <p className="self-center font-figure text-xl font-bold" role="status">
          <Trans>
            {step.nipples_turned} turned, {step.next ? step.rest.length + 1 : 0} left
          </Trans>
        </p>
        {!closed && <DialMenu streaming={streaming} dial={dial} onChoose={setDial} />}
        {closed ? (
          <ButtonLink to={`/jobs/${job.id}/plan/${step.plan_id}`}>
            <Trans>What was turned</Trans>
          </ButtonLink>
        ) : (
          <Button weight={step.next ? "plain" : "now"} onClick={() => end.go(true)} disabled={busy}>
            <Trans>End here</Trans>
          </Button>
        )}
      </JobHead>
      {step.caution && step.in_order > 0 && (
        <div className="px-4 pt-2">
          <Notice kind="caution">{step.caution}</Notice>
        </div>
      )}
      {suspect && !closed && (
        <div className="flex flex-wrap items-center gap-3 px-4 pt-2">
          <Notice kind="caution">{suspect.said}</Notice>
          <Button
            onClick={() => deed.go({ mend: { spoke: suspect.spoke, turns: suspect.turns } })}
            disabled={busy}
          >
            {suspect.spoke !== suspect.noted
              ? say`It was ${suspect.spoke}`
              : suspect.turns === 0
                ? say`It was not turned`
                : say`The other way`}
          </Button>
          <Button weight="quiet" onClick={() => setUnsuspected(step.version)} disabled={busy}>
            <Trans>It was {suspect.noted}, as noted</Trans>
          </Button>
        </div>
      )}
      <WriteState of={deed} />
      <WriteState of={end} />
      <div className="grid gap-x-4 px-4 pt-2 max-sm:px-2 lg:grid-cols-[1fr_300px] xl:grid-cols-[auto_1fr_300px]">
        <WheelDrawing
          derived={job.wheel.derived}
          selected={selected}
          className="h-[232px] w-[232px] max-xl:hidden"
        />
        {looking ? (
          <LiveLook
            key={step.version}
            step={step}
            dial={dial}
            busy={busy}
            onStep={show}
            onClear={() => deed.go({ clear: true })}
            onLump={() => setOpen("lump")}
            onRead={() => setOpen("read")}
            onSkip={() => {
              setAgain(0);
              setSkipped(step.version);
            }}
            onTakeBack={() => deed.go({ takeBack: true })}
          />
        ) : step.next && !closed ? (
          <div className="flex flex-col gap-2">
            {step.ask && (
              <div className="flex flex-wrap items-center gap-3">
                <Notice kind="caution">
                  <Trans>{step.ask} is hardly known: read its tension first.</Trans>
                </Notice>
                <Button onClick={() => setOpen("read")}>
                  <Trans>Read {step.ask}</Trans>
                </Button>
              </div>
            )}
            <LiveCard
              key={`${step.version} ${step.next.spoke}`}
              next={step.next}
              step={step.step_turns}
              unit={unit}
              blade={job.wheel.derived.sides[
                step.next.spoke.startsWith("R") ? "R" : "L"
              ].spoke_kind.startsWith("blade")}
              busy={busy}
              last={step.nipples_turned > 0 ? (step.last?.spoke ?? "") : ""}
              onTurned={(turns) => deed.go({ turned: { spoke: step.next?.spoke ?? "", turns } })}
              onTakeBack={() => deed.go({ takeBack: true })}
            />
          </div>
        ) : (
          <div className="flex flex-col items-start gap-3 self-center" role="status">
            <p className="text-5xl font-bold">
              {step.enough ? say`Enough` : step.ended ? say`Ended` : say`Nothing more`}
            </p>
            <p className="text-xl">{step.said}</p>
            {!closed && (
              <>
                <p>
                  <Trans>
                    Settle the spokes, look once more, and end here: it then is a set of readings.
                  </Trans>
                </p>
                <Button onClick={() => setAgain(step.version)} disabled={busy}>
                  <Trans>Look once more</Trans>
                </Button>
              </>
            )}
          </div>
        )}
        <LiveFigures step={step} />
      </div>
      {step.rest.length > 0 && !closed && (
        <p className="flex flex-wrap items-center gap-x-5 px-4 pt-1">
          <span className="text-muted">
            <Trans>Then</Trans>
          </span>
          {step.rest.slice(0, 12).map((turn, index) => (
            <span key={`${turn.spoke} ${index}`} className="inline-flex items-center gap-1 whitespace-nowrap">
              <span className="font-figure font-bold">{turn.spoke}</span> {turn.turns > 0 ? "▲" : "▽"}{" "}
              <Fraction text={turnsText(turn.turns)} />
            </span>
          ))}
          {step.rest.length > 12 && (
            <span className="text-muted">
              <Trans>and {step.rest.length - 12} more, if they are needed</Trans>
            </span>
          )}
        </p>
      )}
      <section aria-label={say`The wheel as it stands`} className="flex grow flex-col px-2 pt-1">
        <Strip
          state={step.state}
          unit={unit}
          lanes={{ lateral: 54, radial: 40, tension: 72, turns: 58 }}
          selected={selected}
          onSelect={setPicked}
          over={[{ look: "ghost", trace: found?.trace, tension_n: found?.spokes.map((s) => s.tension_n) }]}
          moves={drawn(step)}
        />
        <div className="px-2">
          <Legend ghost={found ? say`as found` : ""} />
        </div>
      </section>
      {open === "lump" && (
        <LumpDialog
          spoke={step.last?.spoke ?? step.next?.spoke ?? ""}
          send={(lump, head) =>
            answer(
              client.POST("/api/v1/plans/{plan_id}/live/told", {
                params: { path },
                ...head,
                body: { version: step.version, ...lump },
              }),
            ).then(show)
          }
          onClose={() => setOpen("")}
          onDone={() => undefined}
        />
      )}
      {open === "read" && (
        <LiveRead
          step={step}
          spoke={step.ask || step.last?.spoke || ""}
          onStep={show}
          onClose={() => setOpen("")}
        />
      )}
    </main>
  );
}

/** What is left, one turn of each spoke, as the strip draws it. */
function drawn(step: Step): Move[] {
  const left = new Map<string, number>();
  for (const turn of [...(step.next ? [step.next] : []), ...step.rest])
    left.set(turn.spoke, (left.get(turn.spoke) ?? 0) + turn.turns);
  return [...left].map(([spoke, turns]) => ({ spoke, turns, fraction: turnsText(turns), state: "todo" }));
}

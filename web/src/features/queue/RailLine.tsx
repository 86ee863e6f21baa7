import { word } from "@/ui/words";
import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "@/api/client";
import { useUnsafe } from "@/app/Unsafe";
import { timeOf } from "@/ui/when";
import { HungWheel } from "./HungWheel";
import { type Hanging, railDays } from "./railDays";
import { stageIndex, stageName, WAITING_ON } from "./stages";

interface RailLineProps {
  rail: Schemas["Rail"];
  stages: readonly Schemas["Stage"][];
}

/** One rail through the coming days; each wheel hangs from it at its promise, its tyre filled as far as the job has got. */
export function RailLine({ rail, stages }: RailLineProps) {
  const days = railDays(rail.hanging, new Date(rail.now));
  const [picked, setPicked] = useState("");
  const shown =
    rail.hanging.find((h) => h.job.id === picked) ?? rail.hanging.find((h) => h.job.id === rail.next_job_id);
  if (days.length === 0) {
    return (
      <p className="py-10 text-center text-lg text-muted">
        <Trans>The rail is empty. Take in a wheel, and it hangs here at its promise.</Trans>
      </p>
    );
  }
  return (
    <section aria-label={say`Wheels by promise`} className="flex flex-col gap-3">
      <div
        className="overflow-x-auto"
        tabIndex={0}
        role="region"
        aria-label={say`The rail, scrolls sideways`}
      >
        <div className="flex min-w-max items-start border-t-8 border-ink">
          {days.map((day) => (
            <div key={day.key} className="flex min-w-40 flex-col border-r border-line last:border-r-0">
              <h2 className="-mt-2 self-start rounded-b-sm bg-ink px-3 pt-1 pb-1 text-sm font-bold text-face">
                {day.title}
              </h2>
              <ul className="grid auto-cols-[138px] grid-flow-col grid-rows-2 gap-y-2 px-2">
                {day.wheels.map((h) => (
                  <li key={h.job.id}>
                    <WheelOnHook
                      hanging={h}
                      next={h.job.id === rail.next_job_id}
                      share={stageIndex(stages, h.job.stage) / stages.length}
                      stage={stageName(stages, h.job.stage)}
                      onPoint={() => setPicked(h.job.id)}
                    />
                  </li>
                ))}
              </ul>
            </div>
          ))}
        </div>
      </div>
      {shown && <Detail hanging={shown} stages={stages} />}
    </section>
  );
}

interface WheelOnHookProps {
  hanging: Hanging;
  next: boolean;
  share: number;
  stage: string;
  onPoint: () => void;
}

function WheelOnHook({ hanging, next, share, stage, onPoint }: WheelOnHookProps) {
  const { job, level, why } = hanging;
  const unsafe = useUnsafe(job.id).length > 0;
  const time = job.promised_at ? timeOf(job.promised_at) : "";
  const alarm = level === "late" || level === "danger";
  return (
    <Link
      to={`/jobs/${job.id}`}
      onPointerEnter={onPoint}
      onFocus={onPoint}
      className={`flex w-[134px] flex-col items-center rounded-md pb-2 ${next ? "bg-signal text-signal-ink" : "hover:bg-sunk"}`}
    >
      <HungWheel
        spokes={job.wheel.spokes}
        crossings={job.wheel.crossings}
        share={share}
        waiting={Boolean(job.waiting_on)}
      />
      <span className="font-figure text-lg leading-tight font-bold">
        <span className="sr-only">
          <Trans>Job </Trans>
        </span>
        {job.number}
      </span>
      <span className="line-clamp-2 min-h-9 w-full px-1 text-center text-sm leading-tight">{job.bike}</span>
      <span className="w-full truncate px-1 text-center text-sm leading-tight">
        {job.waiting_on ? WAITING_ON[job.waiting_on] : stage}
      </span>
      <span
        className={`mt-0.5 rounded-sm px-1.5 font-figure text-sm ${alarm ? "bg-danger-soft font-bold text-danger" : ""}`}
      >
        {level === "late" ? "late " : level === "danger" ? "tight " : ""}
        {time}
      </span>
      {unsafe && (
        <span className="mt-0.5 rounded-sm bg-danger px-1.5 text-sm font-bold text-face">
          <Trans>not to ride</Trans>
        </span>
      )}
      <span className="sr-only">
        <Trans>
          {word(job.wheel.position)} wheel, {why}
        </Trans>
      </span>
    </Link>
  );
}

function Detail({ hanging, stages }: { hanging: Hanging; stages: readonly Schemas["Stage"][] }) {
  const { job, why } = hanging;
  const unsafe = useUnsafe(job.id);
  return (
    <p
      className="flex min-h-10 flex-wrap items-baseline gap-x-5 border-t border-line pt-2"
      aria-hidden="true"
    >
      <strong className="font-figure text-lg">{job.number}</strong>
      <span>{job.customer}</span>
      <span className="text-muted">“{job.complaint}”</span>
      <span>{job.wheel.kind_name}</span>
      <span>{stageName(stages, job.stage)}</span>
      <span>{job.assigned_to ? `with ${job.assigned_to.name}` : say`nobody has it`}</span>
      <span className="text-muted">{why}</span>
      {unsafe.length > 0 && <strong className="text-danger">{unsafe.join(" ")}</strong>}
    </p>
  );
}

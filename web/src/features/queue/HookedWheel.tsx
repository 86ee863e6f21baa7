import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { memo } from "react";
import { Link } from "react-router";
import { classes } from "@/ui/classes";
import { timeOf } from "@/ui/when";
import { word } from "@/ui/words";
import { HungWheel } from "./HungWheel";
import type { Hanging, Hung } from "./railDays";
import { WAITING_ON } from "./stages";

interface HookedWheelProps {
  hanging: Hanging;
  roomy: boolean;
  next: boolean;
  share: number;
  stage: string;
  unsafe: boolean;
  drags: boolean;
  onPoint: (jobId: string) => void;
}

/** A wheel on its hook: drawn where there is room, else a line of its own height; danger is a word, not a colour alone. */
export const HookedWheel = memo(function HookedWheel(props: HookedWheelProps) {
  const { hanging, roomy, next, share, stage, unsafe, drags, onPoint } = props;
  const { job, level, why, in_hand } = hanging;
  const alarm = level === "late" || level === "danger";
  const mark = level === "late" ? say`late` : level === "danger" ? say`in danger` : "";
  const time = job.promised_at ? timeOf(job.promised_at) : "";
  const now = in_hand
    ? say`${in_hand.person}${in_hand.stand ? `, ${in_hand.stand}` : ""}`
    : job.waiting_on
      ? (WAITING_ON[job.waiting_on] ?? "")
      : stage;
  return (
    <Link
      to={`/jobs/${job.id}`}
      data-hung={job.id}
      draggable={drags}
      onDragStart={(e) => e.dataTransfer.setData("text/felloe-job", job.id)}
      onPointerEnter={() => onPoint(job.id)}
      onFocus={() => onPoint(job.id)}
      className={classes(
        "flex rounded-md",
        next ? "bg-signal text-signal-ink" : "hover:bg-sunk",
        roomy
          ? "w-[134px] flex-col items-center pb-1"
          : "min-h-12 w-[10.5rem] items-center gap-2 border border-line px-2",
      )}
    >
      {roomy && (
        <HungWheel
          spokes={job.wheel.spokes}
          crossings={job.wheel.crossings}
          share={share}
          waiting={Boolean(job.waiting_on)}
        />
      )}
      <span className="font-figure text-lg leading-tight font-bold">
        <span className="sr-only">
          <Trans>Job </Trans>
        </span>
        {job.number}
      </span>
      <span
        className={classes("min-w-0 text-sm leading-tight", roomy ? "w-full px-1 text-center" : "flex-1")}
      >
        <span
          title={roomy ? job.bike : job.customer}
          className={roomy ? "line-clamp-2 min-h-9" : "block truncate"}
        >
          {roomy ? job.bike : job.customer}
        </span>
        <span title={now} className="block truncate">
          {now}
        </span>
      </span>
      {(alarm || (roomy && time)) && (
        <span
          className={classes(
            "rounded-sm px-1 text-sm leading-tight whitespace-nowrap",
            alarm && "bg-danger-soft font-bold text-danger",
          )}
        >
          {roomy ? `${mark} ${time}` : level === "late" ? say`late` : "!"}
        </span>
      )}
      {unsafe && (
        <span className="rounded-sm bg-danger px-1.5 text-sm font-bold whitespace-nowrap text-face">
          {roomy ? say`not to ride` : "✕"}
        </span>
      )}
      <span className="sr-only">
        <Trans>
          {word(job.wheel.position)} wheel, {job.bike}, {why}
        </Trans>
        {unsafe && say`, not to be ridden`}
      </span>
    </Link>
  );
});

interface HookedLotProps {
  hung: Hung;
  onOpen: (key: string) => void;
}

/** A customer's lot on one hook; a tap spreads it out. */
export const HookedLot = memo(function HookedLot({ hung, onOpen }: HookedLotProps) {
  const first = hung.wheels[0];
  if (!first) return null;
  const bad = hung.wheels.filter((h) => h.level === "late" || h.level === "danger").length;
  const waits = hung.wheels.filter((h) => h.job.waiting_on).length;
  return (
    <button
      type="button"
      data-hung={hung.key}
      aria-expanded={false}
      onClick={() => onOpen(hung.key)}
      className="m-1 flex min-h-12 items-center gap-3 rounded-md border-2 border-ink px-3 py-1 text-left hover:bg-sunk"
    >
      <span className="font-figure text-2xl font-bold">{hung.wheels.length}×</span>
      <span className="text-sm leading-tight">
        <strong>{first.job.customer}</strong>
        <br />
        <Trans>
          {hung.wheels.length} wheels on one hook{waits > 0 && say`, ${waits} waiting`}
        </Trans>
        {bad > 0 && (
          <strong className="ml-1 text-danger">
            <Trans>{bad} in danger</Trans>
          </strong>
        )}
      </span>
    </button>
  );
});

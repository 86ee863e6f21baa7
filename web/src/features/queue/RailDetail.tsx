import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "@/api/client";
import { useUnsafe } from "@/app/Unsafe";
import { Button } from "@/ui/Button";
import { dayAndTime } from "@/ui/when";
import type { Hanging } from "./railDays";
import { stageName } from "./stages";

interface RailDetailProps {
  hanging: Hanging;
  stages: readonly Schemas["Stage"][];
  onMove?: () => void;
}

/** What is pointed at on the rail, at the foot of it and always in sight. */
export function RailDetail({ hanging, stages, onMove }: RailDetailProps) {
  const { job, why, in_hand } = hanging;
  const unsafe = useUnsafe(job.id);
  return (
    <div className="sticky bottom-0 grid min-h-12 grid-cols-[1fr_auto] max-md:hidden items-center gap-x-5 border-t-2 border-ink bg-face py-1">
      <p className="flex flex-wrap items-baseline gap-x-5" aria-hidden="true">
        <strong className="font-figure text-lg">{job.number}</strong>
        <span>{job.customer}</span>
        <span className="text-muted">“{job.complaint}”</span>
        <span>{stageName(stages, job.stage)}</span>
        <span>
          {in_hand
            ? say`in the hands of ${in_hand.person}${in_hand.stand ? `, ${in_hand.stand}` : ""}`
            : job.assigned_to
              ? say`with ${job.assigned_to.name}`
              : say`nobody has it`}
          {job.hook && say`, hook ${job.hook.name}`}
        </span>
        {job.wanted_at && <span>{say`wanted ${dayAndTime(job.wanted_at)}`}</span>}
        <span className="text-muted">{why}</span>
        {unsafe.length > 0 && <strong className="text-danger">{unsafe.join(" ")}</strong>}
      </p>
      {onMove && (
        <Button onClick={onMove}>
          <Trans>
            Promise … <kbd className="font-figure text-sm">P</kbd>
          </Trans>
        </Button>
      )}
    </div>
  );
}

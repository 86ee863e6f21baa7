import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useInfiniteQuery } from "@tanstack/react-query";
import type { Schemas } from "@/api/client";
import { pagesOf } from "@/api/pages";
import { Earlier } from "@/ui/Earlier";
import { IfFailed } from "@/ui/NotYet";
import { dayAndTime } from "@/ui/when";
import { stageName } from "./stages";

const WORDS: Record<string, string> = {
  opened: say`Taken in`,
  changed: say`Changed`,
  reading_set: say`Measured`,
  plan: say`Planned`,
  resumed: say`Gone on with`,
  found: say`Found`,
  signed_off: say`Signed off`,
  handed_back: say`Handed back`,
  ended: say`Ended`,
  reopened: say`Taken up again`,
  parts: say`Parts`,
  record_in: say`Record taken in`,
  taken_in: say`From another shop`,
  mark: say`Found on it`,
  mark_ended: say`No longer so`,
  break: say`Broke`,
  frame_check: say`Frame gauge`,
  mended: say`Put right`,
  decided: say`Decided`,
  photo: say`Photo`,
  signed: say`Signed`,
  recheck: say`Re-check`,
};

/** Everything that happened, newest first, with who and when. */
export function JobHistory({ job, stages }: { job: Schemas["Job"]; stages: readonly Schemas["Stage"][] }) {
  const pages = useInfiniteQuery({ ...pagesOf.events(job.id), enabled: job.earlier_events });
  const paged = pages.data?.pages.flatMap((page) => page.events) ?? [];
  const known = new Set(paged.map((event) => event.id));
  // The job itself may know of something newer than the pages that were asked for before it.
  const events = [...[...job.events].reverse().filter((event) => !known.has(event.id)), ...paged];
  return (
    <section aria-label={say`History`}>
      <h2>
        <Trans>History</Trans>
      </h2>
      <IfFailed of={pages} />
      <ol
        className="mt-1 max-h-72 overflow-y-auto border-l-2 border-line pl-3 text-sm"
        tabIndex={0}
        aria-label={say`History, scrolls`}
      >
        {events.map((event) => (
          <li key={event.id} className="pb-1.5">
            <span className="font-bold">
              {event.kind === "stage"
                ? stageName(stages, event.to_stage ?? "")
                : (WORDS[event.kind] ?? event.kind)}
            </span>{" "}
            {event.note && <span>{event.note} </span>}
            <span className="text-muted">
              {event.by}, {dayAndTime(event.created_at)}
            </span>
          </li>
        ))}
        <Earlier of={pages} />
      </ol>
    </section>
  );
}

import type { Schemas } from "@/api/client";
import { dayAndTime } from "@/ui/when";
import { stageName } from "./stages";

const WORDS: Record<string, string> = {
  opened: "Taken in",
  changed: "Changed",
  reading_set: "Measured",
  plan: "Planned",
  found: "Found",
  signed_off: "Signed off",
  handed_back: "Handed back",
  record_in: "Record taken in",
  mark: "Found on it",
  mark_ended: "No longer so",
  break: "Broke",
  frame_check: "Frame gauge",
  mended: "Put right",
  decided: "Decided",
  photo: "Photo",
  signed: "Signed",
  recheck: "Re-check",
};

/** Everything that happened, newest first, with who and when. */
export function JobHistory({ job, stages }: { job: Schemas["Job"]; stages: readonly Schemas["Stage"][] }) {
  const events = [...job.events].reverse();
  return (
    <section aria-label="History">
      <h2>History</h2>
      <ol
        className="mt-1 max-h-72 overflow-y-auto border-l-2 border-line pl-3 text-sm"
        tabIndex={0}
        aria-label="History, scrolls"
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
      </ol>
    </section>
  );
}

import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { keys, touches } from "@/api/keys";
import { ask } from "@/api/queries";
import { useMay } from "@/app/useMay";
import { Button } from "@/ui/Button";
import { IfFailed } from "@/ui/NotYet";
import { dayAndTime, timeOf } from "@/ui/when";
import { useWrite, WriteState } from "@/write/useWrite";
import { PutDownDialog } from "./PutDownDialog";
import { stageName } from "./stages";

interface WorkBarProps {
  job: Schemas["Job"];
  stages: readonly Schemas["Stage"][];
}

/** Who has the wheel, how long is left, and the one tap that takes it up or puts it down. */
export function WorkBar({ job, stages }: WorkBarProps) {
  const work = useQuery({ ...ask.work(job.id), enabled: !job.handed_back_at });
  const places = useQuery(ask.places());
  const may = useMay();
  const [putting, setPutting] = useState(false);
  const stands = (places.data ?? []).filter((p) => p.kind === "stand" && p.in_use);
  const take = useWrite({
    touches: touches.job(job.id),
    fills: () => keys.ofJob(job.id, "work"),
    send: (stand: string | null, head) =>
      answer(
        client.POST("/api/v1/jobs/{job_id}/take-up", {
          params: { path: { job_id: job.id } },
          ...head,
          body: { stand },
        }),
      ),
  });
  if (job.handed_back_at) return null;
  if (!work.data) return <IfFailed of={work} />;
  const { in_hand, mine, left, note, note_by, forgotten, believed_until } = work.data;
  const ready = Boolean(job.ready_at);
  return (
    <section aria-label={say`Work on this wheel`} className="flex flex-col gap-2 border-y border-line py-2">
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <p>
          {in_hand ? (
            <strong>
              {mine ? say`In your hands` : say`In the hands of ${in_hand.person}`}
              {in_hand.stand && say`, ${in_hand.stand}`}
              {say`, since ${timeOf(in_hand.since)}`}
            </strong>
          ) : ready ? (
            <strong>{say`Ready since ${dayAndTime(job.ready_at ?? "")}`}</strong>
          ) : (
            <Trans>Nobody has it in hand</Trans>
          )}{" "}
          <span className="text-muted">{!ready && left}</span>
        </p>
        <span className="ml-auto flex flex-wrap gap-2">
          {may("take_up") && !in_hand && !ready && (
            <Button weight="now" disabled={take.pending} onClick={() => take.go(null)}>
              <Trans>Take up</Trans>
            </Button>
          )}
          {mine &&
            stands.map((stand) => (
              <Button
                key={stand.id}
                aria-pressed={in_hand?.stand === stand.name}
                className="aria-pressed:bg-ink aria-pressed:text-face"
                onClick={() => take.go(stand.id)}
              >
                {stand.name}
              </Button>
            ))}
          {may("put_down") && in_hand && (
            <Button onClick={() => setPutting(true)}>{mine ? say`Put down …` : say`Hand over …`}</Button>
          )}
        </span>
      </div>
      {forgotten && mine && (
        <p role="status" className="border-l-4 border-danger pl-2">
          <Trans>
            Your clock has been running for a long time. Still at it? Nothing was noted after{" "}
            {believed_until ? dayAndTime(believed_until) : ""}: put it down and say when you stopped.
          </Trans>
        </p>
      )}
      {note && (
        <p className="border-l-4 border-ink pl-2">
          <span className="text-muted">{note_by}:</span> {note}
        </p>
      )}
      <WriteState of={take} />
      <Times work={work.data} stages={stages} />
      {putting && <PutDownDialog job={job} work={work.data} onClose={() => setPutting(false)} />}
    </section>
  );
}

/** Estimated against taken, step by step; open to whoever asks. */
function Times({ work, stages }: { work: Schemas["Work"]; stages: readonly Schemas["Stage"][] }) {
  const round = (minutes: number) => Math.round(minutes);
  return (
    <details>
      <summary className="min-h-11 cursor-pointer py-3 text-sm underline underline-offset-4">
        <Trans>Minutes, step by step</Trans>
      </summary>
      <table className="mt-1 text-sm">
        <thead>
          <tr className="text-left">
            <th className="pr-6 font-bold">{say`Step`}</th>
            <th className="pr-6 font-bold">{say`Taken`}</th>
            <th className="font-bold">{say`Still ahead, 8 of 10`}</th>
          </tr>
        </thead>
        <tbody className="font-figure">
          {work.steps.map((s) => (
            <tr key={s.stage}>
              <td className="pr-6 font-sans">{stageName(stages, s.stage)}</td>
              <td className="pr-6">{s.taken_min > 0 ? say`${round(s.taken_min)} min` : ""}</td>
              <td>
                {s.middle_min > 0
                  ? say`${round(s.middle_min)} min (${round(s.low_min)} to ${round(s.high_min)})`
                  : ""}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}

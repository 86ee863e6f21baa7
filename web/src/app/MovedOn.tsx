import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { answer, client, type Schemas } from "@/api/client";
import { keys, touches } from "@/api/keys";
import { ask } from "@/api/queries";
import { Button } from "@/ui/Button";
import { useWrite, WriteState } from "@/write/useWrite";

/** The job went on by itself: said where the work is, and undone with one tap. */
export function MovedOn({ job }: { job: Schemas["Job"] }) {
  const trade = useQuery(ask.trade());
  const last = job.events.filter((e) => e.kind === "stage" || e.kind === "stage_self").at(-1);
  const back = useWrite({
    touches: touches.job(job.id),
    fills: () => keys.ofJob(job.id, "head"),
    send: (to: Schemas["OpenStageEnum"], head) =>
      answer(
        client.POST("/api/v1/jobs/{job_id}/stage", {
          params: { path: { job_id: job.id } },
          ...head,
          body: { version: job.version, to_stage: to, reason: NOT_YET },
        }),
      ),
  });
  if (last?.kind !== "stage_self" || job.stage !== last.to_stage || job.handed_back_at) return null;
  const name = (key: string) => trade.data?.stages.find((s) => s.key === key)?.name ?? key;
  return (
    <div
      role="status"
      className="flex flex-wrap items-center gap-x-4 border-l-4 border-ink bg-sunk px-3 text-sm"
    >
      <span>
        <Trans>
          {last.note}: the job stands at “{name(last.to_stage)}” now.
        </Trans>
      </span>
      <Button
        weight="quiet"
        className="min-h-10"
        disabled={back.pending}
        onClick={() => back.go(last.from_stage as Schemas["OpenStageEnum"])}
      >
        <Trans>Take that back: “{name(last.from_stage)}”</Trans>
      </Button>
      <WriteState of={back} />
    </div>
  );
}

/** The reason in the history; it is read by the shop, in the language it was written in. */
// eslint-disable-next-line lingui/no-unlocalized-strings -- kept as data
const NOT_YET = "Not done yet after all";

import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useNavigate } from "react-router";
import { answer, client, type Schemas } from "@/api/client";
import { touches } from "@/api/keys";
import { useMay } from "@/app/useMay";
import { Button, ButtonLink } from "@/ui/Button";
import { word } from "@/ui/words";
import { useWrite, WriteState } from "@/write/useWrite";
import { stageName } from "./stages";

interface NextWheelProps {
  rail: Schemas["Rail"];
  stages: readonly Schemas["Stage"][];
  /** Also calls are this person's to make. */
  calls: boolean;
}

/** The bench's next: what is in hand already, else what to take up; one tap. */
export function NextWheel({ rail, stages, calls }: NextWheelProps) {
  const navigate = useNavigate();
  const may = useMay();
  const mine = rail.hanging.find((h) => h.job.id === rail.mine);
  const next = mine ?? rail.hanging.find((h) => h.job.id === rail.next_job_id);
  const toCall = rail.desk.filter((task) => task.kind === "call").length;
  const take = useWrite({
    touches: next ? touches.job(next.job.id) : [],
    send: (job_id: string, head) =>
      answer(
        client.POST("/api/v1/jobs/{job_id}/take-up", { params: { path: { job_id } }, ...head, body: {} }),
      ),
    onSaved: async (_, job_id) => {
      await navigate(`/jobs/${job_id}`);
    },
  });
  if (!next) {
    return (
      <section aria-label={say`Next wheel`} className="flex flex-wrap items-center gap-5">
        <p>
          <Trans>
            No wheel waits for you. {may("job_open") ? say`Take one in, or see` : say`See`} what the others
            wait for.
          </Trans>
        </p>
        {may("job_open") && (
          <ButtonLink to="/take-in" weight="now" className="ml-auto">
            <Trans>Take in a wheel</Trans>
          </ButtonLink>
        )}
      </section>
    );
  }
  return (
    <section aria-label={say`Next wheel`} className="flex min-h-14 flex-wrap items-center gap-x-5 gap-y-2">
      <p className="text-lg font-bold">{mine ? say`In your hands` : say`Next for you`}</p>
      <p className="job-tag flex items-baseline gap-3">
        <span className="font-figure text-2xl font-bold">{next.job.number}</span>
        <span className="text-lg">
          <Trans>
            {word(next.job.wheel.position)} wheel, {next.job.bike}
          </Trans>
        </span>
      </p>
      <p className="max-w-xl text-muted">
        {stageName(stages, next.job.stage)}; {next.why}
        {next.job.hook && !mine && say`; on hook ${next.job.hook.name}`}
        {calls && toCall > 0 && (
          <strong className="block text-sm text-danger">
            <Trans>{toCall} promises in danger: somebody should call</Trans>
          </strong>
        )}
      </p>
      {mine ? (
        <ButtonLink to={`/jobs/${next.job.id}`} weight="now" className="ml-auto">
          <Trans>Go on</Trans>
        </ButtonLink>
      ) : (
        <Button weight="now" className="ml-auto" disabled={take.pending} onClick={() => take.go(next.job.id)}>
          <Trans>Take it up</Trans>
        </Button>
      )}
      <WriteState of={take} />
    </section>
  );
}

import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useLatest } from "@/write/useOutbox";
import { enter } from "@/write/outbox";
import { useWrite, WriteState } from "@/write/useWrite";
import { touches } from "@/api/keys";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import { answer, client } from "@/api/client";
import { ask } from "@/api/queries";
import { JobHead } from "@/app/JobHead";
import { Button, ButtonLink } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { NotYet } from "@/ui/NotYet";
import { ReplaceFacts as Facts } from "./ReplaceFacts";
import { Steps } from "./Steps";

/** A broken spoke, from noted to done: its steps, its length, its way through the wheel, its neighbours' tension. */
export default function ReplacePage() {
  const { jobId = "" } = useParams();
  const navigate = useNavigate();
  const job = useQuery(ask.job(jobId));
  const work = useQuery(ask.replacing(jobId));
  const session = useQuery(ask.session());
  const [picked, setPicked] = useState("");
  const pending = useLatest("replace_step", { job_id: jobId }, (e) => `${e.body.spoke} ${e.body.step}`);
  const measure = useWrite({
    touches: touches.job(jobId),
    send: (_: void, head) =>
      answer(
        client.POST("/api/v1/jobs/{job_id}/reading-sets", {
          params: { path: { job_id: jobId } },
          ...head,
          body: { stage: "after_pass" },
        }),
      ),
    onSaved: async (set) => {
      await navigate(`/jobs/${jobId}/readings/${set.id}`);
    },
  });
  if (!job.data || !work.data) return <NotYet of={[job, work]} what={say`the broken spokes`} />;
  const closed = Boolean(job.data.handed_back_at);
  const spokes = work.data.spokes;
  const current = spokes.find((s) => s.spoke === picked) ?? spokes.find((s) => s.standing) ?? spokes[0];
  return (
    <main className="flex flex-1 flex-col">
      <JobHead job={job.data} title={say`Replacing spokes`}>
        <ButtonLink to={`/jobs/${jobId}/spokes`}>
          <Trans>Spokes and kit</Trans>
        </ButtonLink>
        <ButtonLink to={`/bikes/${job.data.bike.id}/spares`}>
          <Trans>Spare-spoke card</Trans>
        </ButtonLink>
      </JobHead>
      {!current ? (
        <div className="max-w-xl p-6">
          <p className="text-lg">
            <Trans>No spoke of this wheel is noted as broken.</Trans>
          </p>
          <p className="mt-1 mb-4 text-muted">
            <Trans>Note where it broke first: the place says why it broke, and whether one is enough.</Trans>
          </p>
          <ButtonLink weight="now" to={`/jobs/${jobId}/condition`}>
            <Trans>Note a broken spoke</Trans>
          </ButtonLink>
        </div>
      ) : (
        <div className="grid flex-1 grid-cols-1 gap-6 p-4 lg:grid-cols-[1fr_400px]">
          <div className="flex flex-col gap-3">
            {spokes.length > 1 && (
              <Choice
                label={say`Which spoke`}
                value={current.spoke}
                onChange={setPicked}
                options={spokes.map((s) => ({ value: s.spoke, text: s.standing ? s.spoke : `${s.spoke} ✓` }))}
              />
            )}
            <Steps
              label={say`Steps for ${current.spoke}`}
              steps={current.steps}
              closed={closed}
              pending={pendingOf(current.spoke, pending)}
              onStep={(key, done) =>
                enter("replace_step", { job_id: jobId }, { spoke: current.spoke, step: key, done })
              }
            />
            {!current.standing && (
              <div className="flex items-center gap-4">
                <p className="text-lg">
                  <Trans>The new {current.spoke} is in the wheel&rsquo;s record.</Trans>
                </p>
                {!closed && (
                  <Button weight="now" disabled={measure.pending} onClick={() => measure.go()}>
                    <Trans>Measure, then plan the truing</Trans>
                  </Button>
                )}
              </div>
            )}
            <WriteState of={measure} />
          </div>
          <Facts
            key={current.spoke}
            spoke={current}
            derived={work.data.derived}
            unit={session.data?.force_unit ?? "N"}
            jobId={jobId}
            closed={closed}
          />
        </div>
      )}
    </main>
  );
}

function pendingOf<T>(spoke: string, all: ReadonlyMap<string, T>): ReadonlyMap<string, T> {
  const mine = [...all].filter(([name]) => name.startsWith(`${spoke} `));
  return new Map(mine.map(([name, entry]) => [name.slice(spoke.length + 1), entry]));
}

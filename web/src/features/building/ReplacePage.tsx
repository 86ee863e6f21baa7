import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { answer, client, type Schemas, writeKey } from "@/api/client";
import { sentenceOf } from "@/api/problem";
import { ask } from "@/api/queries";
import { BenchHead } from "@/features/bench/BenchHead";
import { ButtonLink } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { Notice } from "@/ui/Notice";
import { shownForce } from "@/ui/forces";
import { Waiting } from "@/ui/Waiting";
import { WheelDrawing } from "@/wheelmap/WheelDrawing";
import { Steps } from "./Steps";

/** A broken spoke, from noted to done: its steps, its length, its way through the wheel, its neighbours' tension. */
export default function ReplacePage() {
  const { jobId = "" } = useParams();
  const queries = useQueryClient();
  const job = useQuery(ask.job(jobId));
  const work = useQuery(ask.replacing(jobId));
  const session = useQuery(ask.session());
  const [picked, setPicked] = useState("");
  const step = useMutation({
    mutationFn: (body: Schemas["ReplaceStepInRequest"]) =>
      answer(
        client.POST("/api/v1/jobs/{job_id}/replacing", {
          params: { path: { job_id: jobId } },
          headers: { "Idempotency-Key": writeKey() },
          body,
        }),
      ),
    onSuccess: (found) => {
      queries.setQueryData(["replacing", jobId], found);
      for (const key of ["condition", "job", "state", "sizing", "options"])
        void queries.invalidateQueries({ queryKey: [key] });
    },
  });
  if (!job.data || !work.data) return <Waiting what="the broken spokes" />;
  const closed = Boolean(job.data.handed_back_at);
  const spokes = work.data.spokes;
  const current = spokes.find((s) => s.spoke === picked) ?? spokes.find((s) => s.standing) ?? spokes[0];
  return (
    <main className="flex flex-1 flex-col">
      <BenchHead job={job.data} title="Replacing spokes">
        <ButtonLink to={`/jobs/${jobId}/spokes`}>Spokes and kit</ButtonLink>
        <ButtonLink to={`/bikes/${job.data.bike.id}/spares`}>Spare-spoke card</ButtonLink>
      </BenchHead>
      {!current ? (
        <div className="max-w-xl p-6">
          <p className="text-lg">No spoke of this wheel is noted as broken.</p>
          <p className="mt-1 mb-4 text-muted">
            Note where it broke first: the place says why it broke, and whether one is enough.
          </p>
          <ButtonLink weight="now" to={`/jobs/${jobId}/condition`}>
            Note a broken spoke
          </ButtonLink>
        </div>
      ) : (
        <div className="grid flex-1 grid-cols-1 gap-6 p-4 lg:grid-cols-[1fr_400px]">
          <div className="flex flex-col gap-3">
            {spokes.length > 1 && (
              <Choice
                label="Which spoke"
                value={current.spoke}
                onChange={setPicked}
                options={spokes.map((s) => ({ value: s.spoke, text: s.standing ? s.spoke : `${s.spoke} ✓` }))}
              />
            )}
            {step.isError && <Notice kind="refusal">{sentenceOf(step.error)}</Notice>}
            <Steps
              label={`Steps for ${current.spoke}`}
              steps={current.steps}
              closed={closed}
              busy={step.isPending}
              onStep={(key, done) => step.mutate({ spoke: current.spoke, step: key, done })}
            />
            {!current.standing && (
              <p className="text-lg">
                The new {current.spoke} is in the wheel&rsquo;s record. Now{" "}
                <ButtonLink weight="now" to={`/jobs/${jobId}`}>
                  measure and plan the truing
                </ButtonLink>
              </p>
            )}
          </div>
          <Facts
            spoke={current}
            derived={work.data.derived}
            unit={session.data?.force_unit ?? "N"}
            jobId={jobId}
          />
        </div>
      )}
    </main>
  );
}

interface FactsProps {
  spoke: Schemas["ReplacedSpoke"];
  derived: Schemas["Derived"];
  unit: "N" | "kgf";
  jobId: string;
}

function Facts({ spoke, derived, unit, jobId }: FactsProps) {
  return (
    <aside aria-label={`About ${spoke.spoke}`} className="flex flex-col gap-3">
      <WheelDrawing derived={derived} selected={spoke.spoke} className="mx-auto size-64" />
      <dl className="grid grid-cols-[auto_1fr] items-baseline gap-x-4 gap-y-1">
        <dt className="text-muted">length</dt>
        <dd>
          <span className="font-figure text-arm font-bold">{spoke.length_mm}</span> mm{" "}
          <span className="text-sm text-muted">
            {spoke.length_is_chosen ? "as chosen" : "computed, not chosen yet"}
            {spoke.old_length_mm !== null && <>; the old one was {spoke.old_length_mm} mm</>}
          </span>
        </dd>
        <dt className="text-muted">bring it to</dt>
        <dd>
          {spoke.neighbours_n === null ? (
            <span>
              its neighbours {spoke.neighbours.join(" and ")}: <strong>read them first</strong>
            </span>
          ) : (
            <>
              <span className="font-figure text-arm font-bold">{shownForce(spoke.neighbours_n, unit)}</span>{" "}
              {unit} <span className="text-sm text-muted">as {spoke.neighbours.join(" and ")}</span>
            </>
          )}
        </dd>
        <dt className="text-muted">runs</dt>
        <dd>
          {spoke.lean}, head {spoke.head}
          {spoke.crosses.length > 0 && <>; {spoke.crosses.map((c) => `${c.way} ${c.spoke}`).join(", ")}</>}
          <span className="block text-sm text-muted">
            As usually laced: look at the next but one before you trust it.
          </span>
        </dd>
      </dl>
      {!spoke.length_is_chosen && (
        <ButtonLink weight="now" to={`/jobs/${jobId}/spokes`}>
          Choose the length
        </ButtonLink>
      )}
      <Notice kind="caution">Never ride on a broken spoke. Bend the new one gently; never kink it.</Notice>
    </aside>
  );
}

import { word } from "@/ui/words";
import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useMay } from "@/app/useMay";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { Schemas } from "@/api/client";
import { ask } from "@/api/queries";
import { ButtonLink } from "@/ui/Button";
import { dayAndTime } from "@/ui/when";
import { NotYet } from "@/ui/NotYet";
import { RailLine } from "./RailLine";
import { stageName } from "./stages";

/** Which wheel next, what waits on what, which promise is in danger. */
export default function Rail() {
  const rail = useQuery(ask.rail());
  const trade = useQuery(ask.trade());
  const may = useMay();
  if (!rail.data || !trade.data) return <NotYet of={[rail, trade]} what={say`the rail`} />;
  const { hanging, handed_back, next_job_id } = rail.data;
  const next = hanging.find((h) => h.job.id === next_job_id);
  const stages = trade.data.stages;
  return (
    <main className="flex flex-1 flex-col gap-4 p-4">
      <h1 className="sr-only">
        <Trans>The rail</Trans>
      </h1>
      {next ? (
        <section aria-label={say`Next wheel`} className="flex flex-wrap items-center gap-5">
          <p className="text-lg font-bold">
            <Trans>Next for you</Trans>
          </p>
          <p className="job-tag flex items-baseline gap-3">
            <span className="font-figure text-2xl font-bold">{next.job.number}</span>
            <span className="text-lg">
              <Trans>
                {word(next.job.wheel.position)} wheel, {next.job.bike}
              </Trans>
            </span>
          </p>
          <p className="text-muted">
            {stageName(stages, next.job.stage)}; {next.why}
          </p>
          <ButtonLink to={`/jobs/${next.job.id}`} weight="now" className="ml-auto">
            <Trans>Take it up</Trans>
          </ButtonLink>
        </section>
      ) : (
        <section aria-label={say`Next wheel`} className="flex items-center gap-5">
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
      )}
      <RailLine rail={rail.data} stages={stages} />
      <HandedBack jobs={handed_back} />
    </main>
  );
}

function HandedBack({ jobs }: { jobs: readonly Schemas["RailJob"][] }) {
  if (jobs.length === 0) return null;
  return (
    <section aria-label={say`Handed back`}>
      <h2 className="text-base">
        <Trans>Handed back</Trans>
      </h2>
      <ul className="mt-1 flex flex-wrap gap-x-6 gap-y-1 text-sm">
        {jobs.map((job) => (
          <li key={job.id}>
            <Link to={`/jobs/${job.id}`} className="underline underline-offset-4">
              <span className="font-figure font-bold">{job.number}</span> {job.bike}
            </Link>{" "}
            {job.left_with && (
              <strong className="text-danger">
                {job.left_with === "unsafe" ? say`not to be ridden` : say`with something missing`}{" "}
              </strong>
            )}
            <span className="text-muted">
              {job.ended_as !== "repaired" && `${word(job.ended_as)}, `}
              {job.handed_back_at ? dayAndTime(job.handed_back_at) : ""}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

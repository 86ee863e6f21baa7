import { word } from "@/ui/words";
import { Trans } from "@lingui/react/macro";
import type { ReactNode } from "react";
import { Link } from "react-router";
import type { Schemas } from "@/api/client";
import { HereLine } from "@/live/HereLine";
import { MovedOn } from "./MovedOn";
import { UnsafeLine } from "./Unsafe";

interface JobHeadProps {
  job: Schemas["Job"];
  title: string;
  children?: ReactNode;
}

/** The line over every bench screen: the job's tag, which leads back to the job, and what is being done. */
export function JobHead({ job, title, children }: JobHeadProps) {
  return (
    <>
      <div className="scale-edge flex min-h-14 flex-wrap items-center gap-x-4 gap-y-1 border-b border-line bg-plate px-4 py-1 max-sm:gap-x-2 max-sm:px-2">
        <Link to={`/jobs/${job.id}`} className="job-tag flex min-h-12 items-center gap-3">
          <span className="font-figure text-lg font-bold">{job.number}</span>
          <span className="max-sm:hidden">
            <Trans>
              {word(job.wheel.position)} wheel, {job.bike.label}
            </Trans>
          </span>
          <span className="sm:hidden">
            <Trans>{word(job.wheel.position)} wheel</Trans>
          </span>
        </Link>
        <h1>{title}</h1>
        <HereLine />
        <div className="ml-auto flex flex-wrap gap-2">{children}</div>
      </div>
      <UnsafeLine jobId={job.id} />
      <MovedOn job={job} />
    </>
  );
}

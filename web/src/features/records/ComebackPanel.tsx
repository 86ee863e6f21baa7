import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import type { Schemas } from "@/api/client";
import { askRecord } from "@/api/recordQueries";
import { IfFailed } from "@/ui/NotYet";

/** What became of a wheel since it left here: a proposal for the talk at the counter, never a verdict. */
export function ComebackPanel({ job }: { job: Schemas["Job"] }) {
  const asked = useQuery(askRecord.comeback(job.id));
  const found = asked.data;
  if (asked.isError) return <IfFailed of={asked} />;
  if (!found?.left_set) return null;
  return (
    <section aria-label={say`Since it left`} className="rounded-sm border border-line bg-plate p-3">
      <h2>
        <Trans>Since it left</Trans>
      </h2>
      <p className="text-sm text-muted">
        <Trans>
          It left as job{" "}
          <Link to={`/jobs/${found.left_job ?? ""}`} className="tap underline underline-offset-4">
            {found.left_number}
          </Link>{" "}
          {found.days} days before this one.
        </Trans>
      </p>
      {found.kind ? (
        <>
          <p className="mt-1 font-bold">{found.happened}</p>
          <p>
            {found.proposed} <span className="text-muted">{found.sureness}</span>
          </p>
          <p className="text-sm">{found.look}</p>
        </>
      ) : (
        <p className="mt-1">
          <Trans>Read tension and runout as found: then the readings say what changed.</Trans>
        </p>
      )}
    </section>
  );
}

import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { Link } from "react-router";
import type { Schemas } from "@/api/client";

const SHOWN = 24;

/** Ready to fetch, on a place of its own: the longest wait first, with its age. */
export function ReadyPlace({ ready }: { ready: readonly Schemas["Hanging"][] }) {
  if (ready.length === 0) return null;
  return (
    <section aria-label={say`Ready to fetch`}>
      <h2 className="text-base">
        <Trans>Ready to fetch, {ready.length}</Trans>
      </h2>
      <ul className="mt-1 grid grid-cols-[repeat(auto-fill,minmax(15rem,1fr))] gap-x-5">
        {ready.slice(0, SHOWN).map(({ job, why }) => (
          <li key={job.id} className="border-t border-line">
            <Link to={`/jobs/${job.id}`} className="flex min-h-12 items-center gap-3 hover:bg-sunk">
              <span className="font-figure text-lg font-bold">{job.number}</span>
              <span className="min-w-0">
                <span title={job.customer} className="block truncate">
                  {job.customer}
                </span>
                <span title={why} className="block truncate text-sm text-muted">
                  {why}
                  {job.hook && say`, hook ${job.hook.name}`}
                </span>
              </span>
            </Link>
          </li>
        ))}
      </ul>
      {ready.length > SHOWN && (
        <p className="text-sm text-muted">
          <Trans>and {ready.length - SHOWN} more; Find shows each</Trans>
        </p>
      )}
    </section>
  );
}

import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { ask } from "@/api/queries";

/** Why the wheel of a job is not to be ridden as it stands; empty where nothing says so. */
export function useUnsafe(jobId: string): readonly string[] {
  const found = useQuery(ask.unsafe());
  return found.data?.find((job) => job.job_id === jobId)?.why ?? [];
}

/** The line that goes wherever the wheel goes: on every bench screen, its tag and the rail. */
export function UnsafeLine({ jobId }: { jobId: string }) {
  const why = useUnsafe(jobId);
  if (why.length === 0) return null;
  return (
    <p role="note" className="border-l-8 border-danger bg-danger-soft px-4 py-1.5 text-sm">
      <strong className="text-danger uppercase">
        <Trans>Not to be ridden</Trans>
      </strong>{" "}
      {why.join(" ")}
    </p>
  );
}

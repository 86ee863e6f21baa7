import { word } from "@/ui/words";
import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import { ask } from "@/api/queries";
import { useUnsafe } from "@/app/Unsafe";
import { Button } from "@/ui/Button";
import { dayAndTime } from "@/ui/when";
import { NotYet } from "@/ui/NotYet";
import { QrCode } from "@/ui/QrCode";
import { InLanguage } from "@/app/InLanguage";

/** The tag that hangs on the wheel: number, whose, what, when; its code opens the job. */
export default function TagPage() {
  const { jobId = "" } = useParams();
  const job = useQuery(ask.job(jobId));
  const tag = useQuery(ask.tag(jobId));
  const unsafe = useUnsafe(jobId);
  if (!job.data || !tag.data) return <NotYet of={[job, tag]} what={say`the tag`} />;
  const { rows } = tag.data;
  const ended = job.data.handed_back_at
    ? [...job.data.events].reverse().find((e) => e.kind === "ended" || e.kind === "handed_back")
    : undefined;
  return (
    <main className="flex flex-1 flex-col items-center gap-6 p-6 print:p-0">
      <div className="flex gap-3 print:hidden">
        <Button weight="now" onClick={() => window.print()}>
          <Trans>Print the tag</Trans>
        </Button>
        <InLanguage />
        <Link className="tap self-center underline underline-offset-4" to={`/jobs/${jobId}`}>
          <Trans>back to the job</Trans>
        </Link>
      </div>
      <article
        aria-label={say`Tag`}
        className="flex w-[560px] max-w-full gap-5 max-sm:flex-col rounded-md border-2 border-tag-ink bg-tag p-5 text-tag-ink print:w-full"
      >
        <QrCode rows={rows} label={say`Code that opens the job`} className="size-44 shrink-0" />
        <div className="flex min-w-0 flex-col gap-1">
          <p className="font-figure text-6xl font-bold">{job.data.number}</p>
          <p className="text-xl font-bold">
            <Trans>
              {word(job.data.wheel.position)} wheel, {job.data.bike.label}
            </Trans>
          </p>
          <p>{job.data.customer.name}</p>
          <p className="text-sm">“{job.data.complaint}”</p>
          {unsafe.length > 0 && (
            <p className="border-4 border-tag-ink p-1 text-sm">
              <strong className="text-lg uppercase">
                <Trans>Not to be ridden</Trans>
              </strong>{" "}
              {unsafe.join(" ")}
            </p>
          )}
          {ended?.note && <p className="border-t border-tag-ink pt-1 text-sm">{ended.note}</p>}
          <p className="mt-auto">
            {job.data.promised_at ? (
              <strong>
                <Trans>by {dayAndTime(job.data.promised_at)}</Trans>
              </strong>
            ) : (
              say`no day promised`
            )}
          </p>
          {tag.data.own_text && <p className="text-xs">{tag.data.own_text}</p>}
          <p className="text-xs">{tag.data.shop}</p>
        </div>
      </article>
      <p className="text-sm text-muted print:hidden">
        <Trans>The code opens {tag.data.address}</Trans>
      </p>
    </main>
  );
}

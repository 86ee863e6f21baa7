import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { askRecord } from "@/api/recordQueries";
import { Notice } from "@/ui/Notice";
import { IfFailed } from "@/ui/NotYet";
import { dayAndTime } from "@/ui/when";
import { figure } from "@/ui/number";

/** How old the last good backup is, for who answers for it. */
export function Backups() {
  const asked = useQuery(askRecord.backups());
  const found = asked.data;
  const ago =
    found?.hours == null
      ? ""
      : found.hours < 48
        ? say`${Math.round(found.hours)} h ago`
        : say`${Math.round(found.hours / 24)} days ago`;
  return (
    <section aria-label={say`Backups`} className="flex flex-col gap-2">
      <h2>
        <Trans>Backups</Trans>
      </h2>
      <IfFailed of={asked} />
      {found?.overdue && (
        <Notice kind="caution">
          {found.last_good_at ? (
            <Trans>The last good backup was {ago}. A day’s work may be lost with this machine.</Trans>
          ) : (
            <Trans>There never was a good backup of this installation.</Trans>
          )}
        </Notice>
      )}
      {found?.last_good_at && !found.overdue && (
        <p>
          <Trans>
            Last good backup {ago}: {dayAndTime(found.last_good_at)}.
          </Trans>{" "}
          {found.copied ? say`It is in a second place too.` : say`It is in one place only.`}
        </p>
      )}
      <a className="tap self-start underline" href="/api/v1/shop/bundle" download>
        <Trans>The whole shop in open formats, as one file</Trans>
      </a>
      <ul className="text-sm">
        {found?.runs.map((run) => (
          <li key={run.at} className="border-t border-line py-1">
            {dayAndTime(run.at)}{" "}
            {run.good ? (
              <span className="text-muted">
                <Trans>
                  {figure(run.bytes / 1e6, 1)} MB in {figure(run.seconds, 0)} s
                </Trans>
              </span>
            ) : (
              <strong>
                <Trans>failed</Trans>
              </strong>
            )}{" "}
            <span className="text-muted">{run.reason}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { askRecord, type ChangesOf } from "@/api/recordQueries";
import { IfFailed } from "@/ui/NotYet";
import { dayAndTime } from "@/ui/when";
import type { Schemas } from "@/api/client";

type Changed = Schemas["Changed"];

const DEEDS: Record<string, () => string> = {
  made: () => say`added`,
  changed: () => say`changed`,
  gone: () => say`taken away`,
};

/** Who changed what, field by field, as it was and as it is; the database writes it, nobody edits it. */
export function Trail({ of, row = "" }: { of: ChangesOf; row?: string }) {
  const asked = useQuery(askRecord.changes(of, row));
  return (
    <section aria-label={say`Changes`} className="min-w-0">
      <h2>
        <Trans>Changes</Trans>
      </h2>
      <IfFailed of={asked} />
      {asked.data?.length === 0 && (
        <p className="text-muted">
          <Trans>None yet.</Trans>
        </p>
      )}
      <ol className="max-h-96 overflow-y-auto text-sm" tabIndex={0} aria-label={say`Changes, scrolls`}>
        {asked.data?.map((change) => (
          <Line key={change.id} of={change} settings={of === "settings"} />
        ))}
      </ol>
    </section>
  );
}

function Line({ of: change, settings }: { of: Changed; settings: boolean }) {
  return (
    <li className="border-t border-line py-1">
      <span className="text-muted">
        {dayAndTime(change.at)}, {change.by || say`nobody signed in`}
      </span>{" "}
      {(settings || change.deed !== "changed") && (
        <strong>
          {change.what} {DEEDS[change.deed]?.()}{" "}
        </strong>
      )}
      {change.fields.map((field) => (
        <span key={field.what} className="block">
          {field.what}:{" "}
          {change.deed === "changed" ? (
            <>
              <del className="text-muted no-underline">{field.before}</del> → {field.after}
            </>
          ) : (
            field.before || field.after
          )}
        </span>
      ))}
    </li>
  );
}

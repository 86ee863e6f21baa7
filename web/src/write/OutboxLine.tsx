import { plural, t as say } from "@lingui/core/macro";
import { Plural, Trans } from "@lingui/react/macro";
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link } from "react-router";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { dayAndTime } from "@/ui/when";
import { deedOf } from "./deeds";
import type { Entry } from "./entry";
import { dropEntry, onSettled, sendNow, tryAgain } from "./outbox";
import { useOutbox } from "./useOutbox";

/** In the top bar: what is still on this tablet, what was refused, and the list of both. */
export function OutboxLine({ personId }: { personId: string }) {
  const queries = useQueryClient();
  const { entries, offline, unkept } = useOutbox();
  const [open, setOpen] = useState(false);
  useEffect(
    () => onSettled((entry, answer) => deedOf(entry.deed).settled(queries, entry.target, answer)),
    [queries],
  );
  const mine = entries.filter((e) => e.by === personId);
  const waiting = mine.filter((e) => e.state === "waiting");
  const refused = mine.filter((e) => e.state === "refused");
  const others = entries.filter((e) => e.by !== personId);
  if (entries.length === 0) return null;
  const said = [
    waiting.length > 0 &&
      plural(waiting.length, {
        one: "# entry waits on this tablet",
        other: "# entries wait on this tablet",
      }) + (offline ? say`, trying again` : ""),
    unkept > 0 && say`storage full: keep this page open`,
    refused.length > 0 && plural(refused.length, { one: "# entry refused", other: "# entries refused" }),
    others.length > 0 && plural(others.length, { one: "# entry of others", other: "# entries of others" }),
  ].filter(Boolean);
  const urgent = refused.length > 0 || unkept > 0;
  return (
    <>
      <button
        type="button"
        onClick={() => setOpen(true)}
        className={`min-h-11 rounded-sm px-2 py-1 text-sm font-bold ${urgent ? "bg-danger-soft text-danger" : "bg-signal text-signal-ink"}`}
      >
        <span role="status" className="max-md:sr-only">
          {said.join(" · ")}
        </span>
        {/* A phone has room for the counts only. */}
        <span aria-hidden="true" className="font-figure md:hidden">
          {waiting.length > 0 && `↑${waiting.length}`} {refused.length > 0 && `✗${refused.length}`}
          {waiting.length + refused.length === 0 && `…${others.length}`}
        </span>
      </button>
      <Dialog open={open} onOpenChange={setOpen} title={say`On this tablet, not yet with Felloe`}>
        <div className="flex flex-col gap-4">
          {unkept > 0 && (
            <p role="alert" className="border-l-4 border-danger pl-3 font-bold">
              <Trans>
                This tablet&rsquo;s storage is full:{" "}
                <Plural
                  value={unkept}
                  one="# entry is only in this page"
                  other="# entries are only in this page"
                />
                . Keep it open until they are sent, or make room on the tablet.
              </Trans>
            </p>
          )}
          <EntryList entries={[...refused, ...waiting]} onGone={() => setOpen(false)} />
          {others.length > 0 && (
            <section aria-label={say`Of others`}>
              <h3 className="font-bold">
                <Trans>Of others: sent when they sign in here</Trans>
              </h3>
              <ul>
                {others.map((e) => (
                  <li key={e.key} className="border-t border-line py-1">
                    {e.byName || say`Somebody else`}: {sayOf(e)}, {dayAndTime(e.at)}
                  </li>
                ))}
              </ul>
            </section>
          )}
          {waiting.length > 0 && (
            <Button className="self-start" onClick={sendNow}>
              <Trans>Send now</Trans>
            </Button>
          )}
        </div>
      </Dialog>
    </>
  );
}

const sayOf = (e: Entry) => deedOf(e.deed).says(e.body, e.target);

function EntryList({ entries, onGone }: { entries: readonly Entry[]; onGone: () => void }) {
  if (entries.length === 0) return null;
  return (
    <ul aria-label={say`Entries`}>
      {entries.map((e) => (
        <li key={e.key} className="flex flex-wrap items-center gap-3 border-t border-line py-2">
          <div className="min-w-56 flex-1">
            <p className="font-bold">{sayOf(e)}</p>
            <p className={e.state === "refused" ? "text-sm font-bold text-danger" : "text-sm text-muted"}>
              {e.state === "refused"
                ? say`Refused: ${e.refusal?.message ?? ""}`
                : `${e.seq < 0 ? say`only in this page` : say`kept here`}, ${dayAndTime(e.at)}${e.stumbles > 0 ? say`; tried ${e.stumbles} times, something is in its way` : ""}`}
            </p>
          </div>
          <Link to={e.href} onClick={onGone} className="underline underline-offset-4">
            <Trans>where it was done</Trans>
          </Link>
          {e.state === "refused" && (
            <>
              <Button onClick={() => void tryAgain(e.key)}>
                <Trans>Send it again</Trans>
              </Button>
              <Button weight="danger" onClick={() => dropEntry(e.key)}>
                <Trans>Drop it</Trans>
              </Button>
            </>
          )}
        </li>
      ))}
    </ul>
  );
}

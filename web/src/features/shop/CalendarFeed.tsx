import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { answer, client } from "@/api/client";
import { keys } from "@/api/keys";
import { askRecord } from "@/api/recordQueries";
import { Button } from "@/ui/Button";
import { IfFailed } from "@/ui/NotYet";
import { dayAndTime } from "@/ui/when";
import { useWrite, WriteState } from "@/write/useWrite";

/** The address at which any calendar reads the shop's promises. */
export function CalendarFeed({ owner }: { owner: boolean }) {
  const asked = useQuery(askRecord.feed());
  const renew = useWrite({
    touches: [keys.feed()],
    fills: () => keys.feed(),
    send: (keep: boolean, head) => answer(client.POST("/api/v1/calendar-feed", { ...head, body: { keep } })),
  });
  const found = asked.data;
  return (
    <section aria-label={say`Promises in a calendar`} className="flex flex-col gap-2">
      <h2>
        <Trans>Promises in a calendar</Trans>
      </h2>
      <p className="text-sm text-muted">
        <Trans>
          Any calendar that takes an address shows what is promised when: tag, wheel and bike, no customer’s
          name. Who has the address can read it.
        </Trans>
      </p>
      <IfFailed of={asked} />
      {found?.address && (
        <p className="text-sm">
          <code className="block bg-sunk p-2 break-all">{found.address}</code>
          <span className="text-muted">
            <Trans>
              since {dayAndTime(found.since ?? "")}, {found.by}
            </Trans>
          </span>
        </p>
      )}
      {owner && (
        <div className="flex flex-wrap gap-3">
          <Button disabled={renew.pending} onClick={() => renew.go(true)}>
            {found?.address ? say`A new address, close this one` : say`Make an address`}
          </Button>
          {found?.address && (
            <Button weight="quiet" disabled={renew.pending} onClick={() => renew.go(false)}>
              <Trans>Close it</Trans>
            </Button>
          )}
        </div>
      )}
      <WriteState of={renew} />
    </section>
  );
}

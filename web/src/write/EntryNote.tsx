import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { Button } from "@/ui/Button";
import { Notice } from "@/ui/Notice";
import type { Entry } from "./entry";
import { dropEntry, tryAgain } from "./outbox";

/** At the place of the deed: what became of it. A refusal stays until somebody has dealt with it. */
export function EntryNote({
  entry,
}: {
  entry: Pick<Entry, "key" | "state" | "refusal" | "seq"> | undefined;
}) {
  if (!entry) return null;
  if (entry.state === "waiting")
    return (
      <p role="status" className="text-sm text-muted">
        {entry.seq < 0 ? say`Only in this page until it is sent` : say`Kept on this tablet, being sent`}
      </p>
    );
  return (
    <Notice kind="refusal">
      {entry.refusal?.message}{" "}
      <Button weight="quiet" className="min-h-8 px-1" onClick={() => void tryAgain(entry.key)}>
        <Trans>Send it again</Trans>
      </Button>
      <Button weight="quiet" className="min-h-8 px-1" onClick={() => dropEntry(entry.key)}>
        <Trans>Drop it</Trans>
      </Button>
    </Notice>
  );
}

import { Trans } from "@lingui/react/macro";
import { useEffect, useState } from "react";
import { Button } from "./Button";

/** After so long it is said that it takes long, and that one may ask again. */
const LONG_MS = 8000;

/** Something is on its way. */
export function Waiting({ what, onAgain }: { what: string; onAgain?: () => void }) {
  const [long, setLong] = useState(false);
  useEffect(() => {
    const timer = setTimeout(() => setLong(true), LONG_MS);
    return () => clearTimeout(timer);
  }, []);
  return (
    <div role="status" className="p-8 text-muted">
      <p>
        <Trans>Fetching {what} …</Trans>
      </p>
      {long && (
        <p className="mt-2">
          <Trans>
            This takes longer than it should: the server is slow or the network is weak.{" "}
            {onAgain && (
              <Button weight="quiet" onClick={onAgain}>
                <Trans>Ask again</Trans>
              </Button>
            )}
          </Trans>
        </p>
      )}
    </div>
  );
}

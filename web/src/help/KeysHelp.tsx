import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useLocation } from "react-router";
import { Button, ButtonLink } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { keysOf } from "./keysOf";

/** The keys of the screen that is open, one under the other. */
export function KeysHelp({ onClose }: { onClose: () => void }) {
  const { pathname } = useLocation();
  return (
    <Dialog open onOpenChange={onClose} title={say`Keys of this screen`}>
      <dl className="grid grid-cols-[auto_1fr] items-baseline gap-x-5 gap-y-2">
        {keysOf(pathname).map(([keys, does]) => (
          <div key={keys + does} className="contents">
            <dt>
              <kbd className="font-figure font-bold">{keys}</kbd>
            </dt>
            <dd className="m-0">{does}</dd>
          </div>
        ))}
      </dl>
      <div className="mt-4 flex gap-2">
        <Button weight="now" onClick={onClose}>
          <Trans>Back to work</Trans>
        </Button>
        <ButtonLink weight="quiet" to="/words" onClick={onClose}>
          <Trans>Words of the job</Trans>
        </ButtonLink>
      </div>
    </Dialog>
  );
}

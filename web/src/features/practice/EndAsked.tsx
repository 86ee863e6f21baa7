import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { Button } from "@/ui/Button";

interface EndAskedProps {
  find: boolean;
  onEnd: () => void;
  onStay: () => void;
}

/** An exercise ends for good: one more press, so that no stray key ends an hour's work. */
export function EndAsked({ find, onEnd, onStay }: EndAskedProps) {
  return (
    <div
      role="alertdialog"
      aria-label={say`End this exercise?`}
      className="flex flex-wrap items-center gap-3 rounded-md border border-line-strong bg-plate p-3"
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === "Escape") onStay();
      }}
    >
      <p className="font-bold">
        {find ? (
          <Trans>Be told what it was? The exercise ends.</Trans>
        ) : (
          <Trans>Have the wheel judged as it is? The exercise ends.</Trans>
        )}
      </p>
      <Button weight="now" autoFocus onClick={onEnd}>
        <Trans>End it</Trans>
      </Button>
      <Button onClick={onStay}>
        <Trans>Go on working</Trans>
      </Button>
    </div>
  );
}

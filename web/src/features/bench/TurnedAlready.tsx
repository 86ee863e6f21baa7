import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useEffect, useRef } from "react";
import { Button } from "@/ui/Button";
import { Fraction } from "@/ui/Fraction";
import { turnsText } from "./turns";

interface TurnedAlreadyProps {
  /** Who turned it, as it is said. */
  said: string;
  /** What was about to be noted here [turns]. */
  turns: number;
  onLeave: () => void;
  onNote: (instead: "more" | "replace") => void;
}

/** A nipple that is noted already was perhaps turned at another tablet: the second Enter asks. */
export function TurnedAlready({ said, turns, onLeave, onNote }: TurnedAlreadyProps) {
  const first = useRef<HTMLDivElement>(null);
  useEffect(() => first.current?.querySelector("button")?.focus(), []);
  return (
    <div
      role="alertdialog"
      aria-label={say`Turned already`}
      className="flex flex-col gap-2 rounded-md border-2 border-signal bg-face p-3"
    >
      <p className="text-lg font-bold">{said}</p>
      <div ref={first} className="flex flex-wrap gap-2">
        <Button weight="now" onClick={onLeave}>
          <Trans>That turn is it: go on</Trans>
        </Button>
        {turns !== 0 && (
          <Button onClick={() => onNote("more")}>
            <Trans>
              It got <Fraction text={turnsText(turns)} /> more
            </Trans>
          </Button>
        )}
        <Button onClick={() => onNote("replace")}>
          {turns === 0 ? (
            <Trans>Nobody turned it: correct that</Trans>
          ) : (
            <Trans>
              <Fraction text={turnsText(turns)} /> altogether: correct that
            </Trans>
          )}
        </Button>
      </div>
    </div>
  );
}

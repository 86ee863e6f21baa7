import { Trans } from "@lingui/react/macro";
import type { ReactNode } from "react";
import { Button } from "@/ui/Button";
import { Fraction } from "@/ui/Fraction";
import { turnsText } from "./turns";

interface TurnKeysProps {
  /** What notes the turn, as it stands on the card. */
  text: string;
  disabled: boolean;
  onNote: () => void;
  step: number;
  onStep: (by: number) => void;
  /** What else may be done with this nipple. */
  children: ReactNode;
}

/** The keys under a nipple: noted as it is, a step less or more; in one hand they stay at the thumb. */
export function TurnKeys({ text, disabled, onNote, step, onStep, children }: TurnKeysProps) {
  return (
    <div className="flex flex-wrap items-center gap-3 hand:contents">
      <div className="contents hand:sticky hand:bottom-0 hand:z-10 hand:flex hand:gap-2 hand:border-t hand:border-line hand:bg-plate hand:py-2">
        <Button
          weight="now"
          onClick={onNote}
          disabled={disabled}
          className="min-w-44 hand:min-w-0 hand:flex-1"
        >
          {text}{" "}
          <kbd className="font-figure text-sm">
            <Trans>Enter</Trans>
          </kbd>
        </Button>
        <Button onClick={() => onStep(-step)}>
          −<Fraction text={turnsText(step)} />{" "}
          <span className="sr-only">
            <Trans>turn, less tight</Trans>
          </span>
        </Button>
        <Button onClick={() => onStep(step)}>
          +<Fraction text={turnsText(step)} />{" "}
          <span className="sr-only">
            <Trans>turn, tighter</Trans>
          </span>
        </Button>
      </div>
      <div className="contents hand:flex hand:flex-wrap hand:items-center hand:gap-2">{children}</div>
    </div>
  );
}

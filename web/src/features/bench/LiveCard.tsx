import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { type KeyboardEvent, useEffect, useRef, useState } from "react";
import type { Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { type ForceUnit, shownForce } from "@/ui/forces";
import { announce } from "./sound";
import { turnsText } from "./turns";
import { useHeard } from "@/voice/useHeard";
import { NippleFace } from "./NippleFace";
import { useKeptFocus } from "@/ui/useKeptFocus";
import { TurnKeys } from "./TurnKeys";

interface LiveCardProps {
  next: Schemas["LiveNext"];
  step: number;
  unit: ForceUnit;
  blade: boolean;
  busy: boolean;
  /** The nipple that was noted last; empty where there is none to take back. */
  last: string;
  onTurned: (turns: number) => void;
  onTakeBack: () => void;
}

/** The nipple to turn next. Enter: turned so far; + and − where it was another turn; 0: it will not turn; Backspace: back. */
export function LiveCard({ next, step, unit, blade, busy, last, onTurned, onTakeBack }: LiveCardProps) {
  const card = useRef<HTMLDivElement>(null);
  const [turns, setTurns] = useState(next.turns);
  useEffect(() => card.current?.focus(), []);
  useKeptFocus(card);
  const by = (size: number) => setTurns((t) => Math.max(-3, Math.min(3, t + size)));
  const record = () => {
    // Nothing turned is no turn: that it will not turn is a key of its own.
    if (!busy && turns !== 0) onTurned(turns);
  };
  const tell = () => announce(next.spoke, turns, turnsText(turns));
  const told = useRef(tell);
  useEffect(() => told.current(), []);
  useHeard({ onNext: record, onAgain: tell });
  const onKeyDown = (event: KeyboardEvent) => {
    // Buttons on the card keep their own Enter and Space.
    if (event.target !== card.current && ["Enter", " "].includes(event.key)) return;
    const act: Record<string, () => void> = {
      Enter: record,
      "+": () => by(step),
      "-": () => by(-step),
      "0": () => !busy && onTurned(0),
      Backspace: () => !busy && last && onTakeBack(),
    };
    const chosen = act[event.key];
    if (!chosen) return;
    event.preventDefault();
    if (event.repeat && !["+", "-"].includes(event.key)) return;
    chosen();
  };
  return (
    <div
      ref={card}
      tabIndex={0}
      role="group"
      aria-label={say`Next nipple: ${next.spoke}`}
      onKeyDown={onKeyDown}
      className="flex flex-col gap-2 min-h-[248px] low:min-h-[224px] self-start rounded-md border border-line bg-plate px-6 py-2 max-sm:px-3"
    >
      <NippleFace spoke={next.spoke} turns={turns} />
      <p className="text-muted">
        <Trans>
          Tension{" "}
          <span className="font-figure font-bold text-ink">
            {shownForce(Math.max(0, next.tension_before_n), unit)} → {shownForce(next.tension_after_n, unit)}{" "}
            {unit}
          </span>
          .
        </Trans>{" "}
        {blade
          ? say`Hold the blade close to the nipple.`
          : say`Go past by about the spoke’s twist, then back.`}
      </p>
      {next.why && <p className="-mt-2">{next.why}</p>}
      <TurnKeys
        text={turns === next.turns ? say`Turned` : say`Turned like this`}
        disabled={busy || turns === 0}
        onNote={record}
        step={step}
        onStep={by}
      >
        <Button onClick={() => onTurned(0)} disabled={busy} className="px-3">
          <Trans>Will not turn</Trans>
        </Button>
        {last && (
          <Button weight="quiet" onClick={onTakeBack} disabled={busy} className="px-1">
            <Trans>Take back {last}</Trans>
          </Button>
        )}
      </TurnKeys>
    </div>
  );
}

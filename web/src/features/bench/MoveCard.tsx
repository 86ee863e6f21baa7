import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { type KeyboardEvent, useEffect, useRef, useState } from "react";
import type { Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import type { ForceUnit } from "@/ui/forces";
import { Fraction } from "@/ui/Fraction";
import { EntryNote } from "@/write/EntryNote";
import type { EntryOf } from "@/write/useOutbox";
import { announce } from "./sound";
import { useHeard } from "@/voice/useHeard";
import { NippleFace } from "./NippleFace";
import { TensionNow } from "./TensionNow";
import { TurnedAlready } from "./TurnedAlready";
import { TurnKeys } from "./TurnKeys";
import { turnsText } from "./turns";
import { dropEntry } from "@/write/outbox";
import { useAgo } from "@/ui/ago";
import { useKeptFocus } from "@/ui/useKeptFocus";

interface MoveCardProps {
  move: Schemas["PlanMove"];
  place: number;
  total: number;
  step: number;
  unit: ForceUnit;
  blade: boolean;
  closed: boolean;
  onMark: (
    key: string,
    what: Schemas["PlanMoveStateEnum"],
    turns?: number,
    instead?: "more" | "replace",
  ) => void;
  onGo: (by: number) => void;
  entry: EntryOf<"move"> | undefined;
  /** Whether everything before it in the walk was turned as planned. */
  asPlanned: boolean;
}

/** One nipple: which, which way, how far. Enter ticks it off; + and − note that it was turned differently. */
export function MoveCard({
  move,
  place,
  total,
  step,
  unit,
  blade,
  closed,
  onMark,
  onGo,
  entry,
  asPlanned,
}: MoveCardProps) {
  const card = useRef<HTMLDivElement>(null);
  const [turns, setTurns] = useState(move.done_turns ?? move.turns);
  useEffect(() => card.current?.focus(), []);
  useKeptFocus(card);
  const ago = useAgo(move.state === "todo" ? null : move.done_at);
  const done = ago ? `${doneText(move)}, ${ago}` : doneText(move);
  const changed = Math.abs(turns - move.turns) > 1e-9;

  // What is noted already asks: here, where this page knows it, and by the server's refusal where it does not.
  const [asking, setAsking] = useState(false);
  const refused = entry?.state === "refused" && entry.refusal?.code === "turned_already" ? entry : undefined;
  const by = (size: number) => setTurns((t) => Math.max(-3, Math.min(3, t + size)));
  const record = () => {
    if (closed || refused) return;
    if (move.state !== "todo") setAsking(true);
    else if (turns === 0) onMark(move.key, "skipped");
    else if (changed) onMark(move.key, "changed", turns);
    else onMark(move.key, "done");
  };
  const skip = () => {
    if (move.state === "todo") return onMark(move.key, "skipped");
    setTurns(0);
    setAsking(true);
  };
  const meant = refused
    ? { done: move.turns, skipped: 0, todo: 0, changed: refused.body.done_turns ?? 0 }[refused.body.state]
    : turns;
  const leave = () => {
    if (refused) dropEntry(refused.key);
    setAsking(false);
    onGo(1);
  };
  const note = (instead: "more" | "replace") => {
    setAsking(false);
    if (meant === 0) onMark(move.key, "skipped", undefined, instead);
    else onMark(move.key, "changed", meant, instead);
  };
  const tell = () => announce(move.spoke, turns, turnsText(turns));
  const told = useRef(tell);
  useEffect(() => told.current(), []);
  useHeard({ onNext: record, onBack: () => onGo(-1), onAgain: tell });
  const onKeyDown = (event: KeyboardEvent) => {
    // Buttons on the card keep their own Enter and Space.
    if (event.target !== card.current && ["Enter", " "].includes(event.key)) return;
    const act: Record<string, () => void> = {
      Enter: record,
      "+": () => by(step),
      "-": () => by(-step),
      "0": () => setTurns(0),
      ArrowRight: () => onGo(1),
      ArrowLeft: () => onGo(-1),
      Backspace: () => (move.state === "todo" ? onGo(-1) : onMark(move.key, "todo")),
    };
    const chosen = act[event.key];
    if (!chosen) return;
    event.preventDefault();
    // A key held down ticks one nipple off, not four.
    if (event.repeat && ["Enter", "0", "Backspace"].includes(event.key)) return;
    chosen();
  };

  return (
    <div
      ref={card}
      tabIndex={0}
      role="group"
      aria-label={say`Nipple ${place} of ${total}: ${move.spoke}`}
      onKeyDown={onKeyDown}
      className="flex flex-col gap-2 self-start rounded-md border border-line bg-plate px-6 py-2 max-sm:px-3"
    >
      <NippleFace spoke={move.spoke} turns={turns} />
      <TensionNow move={move} unit={unit} asPlanned={asPlanned} />
      <p className="-mt-2 text-muted">
        {blade ? say`Hold the blade close to the nipple` : say`Go past by about the spoke’s twist, then back`}
        {move.twist_turns ? (
          <>
            <Trans>
              {blade ? say`: free, it would twist by ` : ": "}
              <Fraction text={turnsText(move.twist_turns)} /> of a turn here
            </Trans>
          </>
        ) : null}
        .
      </p>
      {move.why && <p className="-mt-2">{move.why}</p>}
      <TurnKeys
        text={changed ? say`Done like this` : say`Done`}
        disabled={closed}
        onNote={record}
        step={step}
        onStep={by}
      >
        <Button onClick={skip} disabled={closed}>
          <Trans>Skip</Trans>
        </Button>
        <Button weight="quiet" onClick={() => onGo(-1)}>
          <Trans>← back</Trans>
        </Button>
        <Button weight="quiet" onClick={() => onGo(1)}>
          <Trans>on →</Trans>
        </Button>
        <p role="status" className="text-muted">
          {done}
        </p>
      </TurnKeys>
      {asking || refused ? (
        <TurnedAlready said={refused?.refusal?.message ?? done} turns={meant} onLeave={leave} onNote={note} />
      ) : (
        <EntryNote entry={entry} />
      )}
    </div>
  );
}

function doneText(move: Schemas["PlanMove"]): string {
  if (move.state === "todo") return say`Not done yet`;
  if (move.state === "skipped") return say`Skipped by ${move.by}`;
  if (move.state === "changed") return say`Turned ${turnsText(move.done_turns ?? 0)} instead, by ${move.by}`;
  return say`✓ done by ${move.by}`;
}

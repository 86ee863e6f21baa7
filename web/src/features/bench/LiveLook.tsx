import { word } from "@/ui/words";
import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useEffect, useRef, useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { Fraction } from "@/ui/Fraction";
import { useWrite, WriteState } from "@/write/useWrite";
import { useKeptFocus } from "@/ui/useKeptFocus";
import { turnsText } from "./turns";
import type { Dial, DialKind } from "./useDial";
import { wholeTurn } from "./wholeTurn";

type Step = Schemas["LiveStep"];

interface LiveLookProps {
  step: Step;
  dial: Dial | null;
  busy: boolean;
  onStep: (step: Step) => void;
  onClear: () => void;
  onLump: () => void;
  onRead: () => void;
  onSkip: () => void;
  onTakeBack: () => void;
}

/** A nipple was turned: look at the rim. A dial that streams does it by itself while the wheel is turned once. */
export function LiveLook(props: LiveLookProps) {
  const { step, dial, busy, onClear, onLump, onRead, onSkip, onTakeBack } = props;
  const first = useRef<HTMLDivElement>(null);
  useEffect(() => first.current?.focus(), []);
  useKeptFocus(first);
  const last = step.last;
  return (
    <div
      ref={first}
      tabIndex={0}
      role="group"
      aria-label={say`Look at the rim`}
      onKeyDown={(event) => {
        if (event.target !== first.current || event.repeat) return;
        if (event.key === "Enter" && !busy) onSkip();
        else if (event.key === "0" && !busy) onClear();
        else if (event.key === "1" && !busy) onLump();
        else if (event.key === "2" && !busy) onRead();
        else if (event.key === "Backspace" && !busy) onTakeBack();
        else return;
        event.preventDefault();
      }}
      className="flex min-h-[248px] low:min-h-[224px] flex-col gap-2 self-start rounded-md border border-line bg-plate px-6 py-2 max-sm:px-3"
    >
      {last && (
        <p className="text-xl">
          <Trans>
            <strong className="font-figure">{last.spoke}</strong>{" "}
            {last.turns === 0 ? say`left as it is` : last.turns > 0 ? say`tightened by` : say`eased by`}{" "}
            {last.turns !== 0 && (
              <>
                <Fraction text={turnsText(last.turns)} />{" "}
                {Math.abs(last.turns) === 1 ? say`turn` : say`of a turn`}
              </>
            )}
          </Trans>
        </p>
      )}
      <p className="text-4xl font-bold">
        {dial ? <Trans>Turn the wheel once</Trans> : <Trans>Look at the rim</Trans>}
      </p>
      {dial && (
        <Listening
          key={`${step.plan_id} ${step.version} ${dial.instrument} ${dial.kinds.join(" ")}`}
          {...props}
          dial={dial}
        />
      )}
      <div className="flex flex-wrap items-center gap-3 hand:sticky hand:bottom-0 hand:z-10 hand:gap-2 hand:bg-plate hand:py-2">
        <Button onClick={onClear} disabled={busy}>
          <Trans>Nothing rubs</Trans> <kbd className="font-figure text-sm">0</kbd>
        </Button>
        <Button onClick={onLump} disabled={busy}>
          <Trans>It rubs …</Trans> <kbd className="font-figure text-sm">1</kbd>
        </Button>
        <Button onClick={onRead} disabled={busy}>
          <Trans>Read one spoke</Trans> <kbd className="font-figure text-sm">2</kbd>
        </Button>
        <Button weight={dial ? "plain" : "now"} onClick={onSkip} disabled={busy}>
          <Trans>No look, next nipple</Trans>{" "}
          <kbd className="font-figure text-sm">
            <Trans>Enter</Trans>
          </kbd>
        </Button>
        <Button weight="quiet" onClick={onTakeBack} disabled={busy}>
          <Trans>It was not turned</Trans>
        </Button>
      </div>
    </div>
  );
}

/** Listens until the wheel has gone once round past each of the dial's kinds, one after the other. */
function Listening({ step, dial, onStep }: LiveLookProps & { dial: Dial }) {
  const [gone, setGone] = useState(0);
  const [past, setPast] = useState<DialKind>(dial.kinds[0] ?? "lateral");
  const here = useRef(true);
  const turn = useWrite({
    send: async ({ version, kind }: { version: number; kind: DialKind }, head) =>
      wholeTurn<Schemas["TurnHeard"], Step>(
        () =>
          answer(
            client.POST("/api/v1/plans/{plan_id}/live/turn", {
              params: { path: { plan_id: step.plan_id } },
              ...head,
              body: { version, kind, instrument: dial.instrument },
            }),
          ),
        (heard) => "version" in heard,
        (heard) => setGone(heard.gone_deg),
        () => here.current,
      ),
    onSaved: (found, { kind }) => {
      const following = dial.kinds[dial.kinds.indexOf(kind) + 1];
      if (!following || !here.current) return onStep(found);
      setGone(0);
      setPast(following);
      turn.go({ version: found.version, kind: following });
    },
  });
  const begin = useRef(() => turn.go({ version: step.version, kind: dial.kinds[0] ?? "lateral" }));
  useEffect(() => {
    here.current = true;
    begin.current();
    return () => {
      here.current = false;
    };
  }, []);
  return (
    <>
      <p role="status" className="flex items-center gap-3 text-lg">
        <span aria-hidden="true" className="h-3 w-48 border border-ink">
          <span
            className="block h-full bg-signal"
            style={{ width: `${Math.min(100, (gone / 360) * 100)}%` }}
          />
        </span>
        <Trans>
          {word(past)}, {Math.round(gone)}° heard
        </Trans>
      </p>
      <WriteState of={turn} />
      {turn.error && !turn.refused && (
        <Button onClick={() => turn.go({ version: step.version, kind: past })}>
          <Trans>Listen again</Trans>
        </Button>
      )}
    </>
  );
}

import { Trans } from "@lingui/react/macro";
import type { Schemas } from "@/api/client";
import { turnsText } from "@/features/bench/turns";
import { Button } from "@/ui/Button";
import { Fraction } from "@/ui/Fraction";
import type { KeyedDeed, StandDeed } from "./standDeeds";

interface StandKeysProps {
  deeds: KeyedDeed[];
  onDeed: (name: StandDeed) => void;
  step: number;
  held: boolean;
  now: Schemas["PracticeNow"];
  /** A nipple of the plan waits. */
  planned: boolean;
}

const AT_THE_THUMB: readonly StandDeed[] = ["back", "on", "ease", "tighten"];
/** With a plan its next nipple comes to the hand by itself. */
const BY_THE_PLAN: readonly StandDeed[] = ["ease", "tighten", "next"];
const LATER: readonly StandDeed[] = ["next", "end", "plan"];

/** Every deed as a key to be touched, with the key that does it without looking. */
export function StandKeys({ deeds, onDeed, step, held, now, planned }: StandKeysProps) {
  const show = (deed: KeyedDeed, primary = false) => (
    <Button
      key={deed.name}
      weight={primary ? "now" : "plain"}
      aria-pressed={deed.name === "hold" ? held : undefined}
      aria-keyshortcuts={deed.key}
      onClick={() => onDeed(deed.name)}
      className="min-w-0 gap-1 px-1.5 text-sm leading-tight aria-pressed:bg-ink aria-pressed:text-face"
    >
      {deed.text}
      {deed.name === "step" && <Fraction text={turnsText(step)} />}
      <kbd className="font-figure text-sm opacity-70 max-sm:hidden">{deed.key}</kbd>
    </Button>
  );
  const of = (names: readonly StandDeed[]) => deeds.filter(({ name }) => names.includes(name));
  const thumb = planned ? BY_THE_PLAN : AT_THE_THUMB;
  const later = LATER.filter((name) => !thumb.includes(name));
  const rest = deeds.filter(({ name }) => !thumb.includes(name) && !later.includes(name));
  const primary: readonly StandDeed[] = planned ? ["next"] : ["ease", "tighten"];
  return (
    <div className="grid grid-cols-5 gap-1.5 max-sm:grid-cols-3 hand:flex hand:flex-col">
      <div className="contents hand:grid hand:auto-cols-fr hand:grid-flow-col hand:gap-2">
        {of(thumb).map((deed) => show(deed, primary.includes(deed.name)))}
      </div>
      <div className="contents hand:grid hand:grid-cols-3 hand:gap-2">
        {rest.map((deed) => show(deed))}
        {of(later).map((deed) => show(deed))}
        <p className="self-center text-sm leading-tight">
          <Trans>
            Nipples touched: {now.touches}. Pass {now.passes.length + 1}.
          </Trans>
        </p>
      </div>
    </div>
  );
}

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
}

const AT_THE_THUMB: readonly StandDeed[] = ["back", "on", "ease", "tighten"];
const LATER: readonly StandDeed[] = ["next", "end", "plan"];

/** Every deed as a key to be touched, with the key that does it without looking. */
export function StandKeys({ deeds, onDeed, step, held, now }: StandKeysProps) {
  const show = (deed: KeyedDeed, primary = false) => (
    <Button
      key={deed.name}
      weight={primary ? "now" : "plain"}
      aria-pressed={deed.name === "hold" ? held : undefined}
      aria-keyshortcuts={deed.key}
      onClick={() => onDeed(deed.name)}
      className="min-w-0 px-2 aria-pressed:bg-ink aria-pressed:text-face"
    >
      {deed.text}
      {deed.name === "step" && <Fraction text={turnsText(step)} />}
      <kbd className="font-figure text-sm opacity-70 max-sm:hidden">{deed.key}</kbd>
    </Button>
  );
  const of = (names: readonly StandDeed[]) => deeds.filter(({ name }) => names.includes(name));
  const rest = deeds.filter(({ name }) => !AT_THE_THUMB.includes(name) && !LATER.includes(name));
  return (
    <div className="flex flex-col gap-2">
      <div className="grid grid-cols-4 gap-2 hand:sticky hand:bottom-0 hand:z-10 hand:order-last hand:border-t hand:border-line hand:bg-face hand:py-2">
        {of(AT_THE_THUMB).map((deed) => show(deed, deed.name === "ease" || deed.name === "tighten"))}
      </div>
      <div className="flex flex-wrap gap-2">{rest.map((deed) => show(deed))}</div>
      <div className="flex flex-wrap items-center gap-2">
        {of(LATER).map((deed) => show(deed))}
        <p className="font-figure text-sm">
          <Trans>
            Nipples touched: {now.touches}. Pass {now.passes.length + 1}.
          </Trans>
        </p>
      </div>
    </div>
  );
}

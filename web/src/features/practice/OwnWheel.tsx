import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import type { Schemas } from "@/api/client";
import { Button, ButtonLink } from "@/ui/Button";
import { PickField } from "@/ui/Field";
import type { Write } from "@/write/useWrite";
import { Dots } from "./Dots";

type Mode = Schemas["PracticeModeEnum"];

interface OwnWheelProps {
  ladder: Schemas["Ladder"];
  begin: Write<Schemas["BeginRequest"], Schemas["PracticeRun"]>;
}

const picks = (words: Schemas["PracticeWord"][]) => words.map(({ key, text }) => ({ value: key, text }));

/** A wheel of one's own choice: any kind, any faults, any way. */
export function OwnWheel({ ladder, begin }: OwnWheelProps) {
  const { own, kinds, modes, faults, findable, bladed, tiers } = ladder;
  const [kind, setKind] = useState(own.kind);
  const [mode, setMode] = useState<Mode>("meter");
  const [tier, setTier] = useState("sound");
  const [chosen, setChosen] = useState<readonly string[]>(["lump"]);
  const possible = faults.filter(({ key }) =>
    mode === "find" ? findable.includes(key) : key !== "twisted_blade" || bladed.includes(kind),
  );
  const wanted = possible.filter(({ key }) => chosen.includes(key)).map(({ key }) => key);
  // One is looked for at a time.
  const asked = mode === "lace" ? [] : mode === "find" ? wanted.slice(0, 1) : wanted;
  const toggle = (key: string) =>
    setChosen(chosen.includes(key) ? chosen.filter((other) => other !== key) : [...chosen, key]);
  return (
    <section aria-label={own.name} className="flex flex-col gap-3 rounded-md border border-line bg-plate p-4">
      <h2 className="flex items-baseline gap-3">
        {own.name} <Dots mark={own.best} />
      </h2>
      <PickField label={say`Wheel`} value={kind} onChange={setKind} options={picks(kinds)} />
      <div className="grid grid-cols-2 gap-3">
        <PickField
          label={say`Way`}
          value={mode}
          onChange={(next) => setMode(next as Mode)}
          options={picks(modes)}
        />
        <PickField label={say`Goal`} value={tier} onChange={setTier} options={picks(tiers)} />
      </div>
      {mode !== "lace" && (
        <fieldset>
          <legend className="text-sm font-bold">
            {mode === "find" ? <Trans>The fault; none: one is drawn</Trans> : <Trans>Faults</Trans>}
          </legend>
          <ul className="grid grid-cols-1 gap-x-3 sm:grid-cols-2">
            {possible.map(({ key, text }) => (
              <li key={key}>
                <label className="flex min-h-11 items-center gap-2 text-sm">
                  <input
                    type="checkbox"
                    className="size-5 shrink-0"
                    checked={chosen.includes(key)}
                    onChange={() => toggle(key)}
                  />
                  {text}
                </label>
              </li>
            ))}
          </ul>
        </fieldset>
      )}
      <div className="flex flex-wrap gap-2">
        {own.open_run && (
          <ButtonLink to={`/practice/${own.open_run}`}>
            <Trans>Go on with the one begun</Trans>
          </ButtonLink>
        )}
        <Button
          disabled={begin.pending || (asked.length === 0 && mode !== "lace" && mode !== "find")}
          onClick={() => begin.go({ exercise: "own", kind, faults: asked, mode, tier, anew: true })}
        >
          <Trans>Take this wheel</Trans>
        </Button>
      </div>
    </section>
  );
}

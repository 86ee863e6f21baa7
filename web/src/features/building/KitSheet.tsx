import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { typedNumber } from "@/ui/number";
import { NumberField } from "@/ui/NumberField";
import { useState } from "react";
import { Problem, sentenceOf } from "@/api/problem";
import { Button } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { PickField, TextField } from "@/ui/Field";
import { Notice } from "@/ui/Notice";
import { classes } from "@/ui/classes";
import { type Sizing, useSizing } from "./useSizing";

interface KitSheetProps {
  sizing: Sizing;
  writes: ReturnType<typeof useSizing>;
  closed: boolean;
}

const NAMES: Record<string, string> = {
  thread: say`Thread`,
  length: say`Length`,
  flange_hole: say`Flange hole`,
  elbow: say`Heads`,
  enough: say`Enough spokes`,
  rim_hole: say`Rim hole`,
  key: say`Spoke key`,
  washers: say`Washers`,
  washer_fits: say`Washer on nipple`,
  carbon: say`Metal on carbon`,
  corrosion: say`Salt and wet`,
  nipples: say`Enough nipples`,
  measure_one: say`One measured`,
};

/** The kit as it lies on the bench, and every rule that it keeps or breaks. */
export function KitSheet({ sizing, writes, closed }: KitSheetProps) {
  const kit = sizing.kit;
  const places = sizing.sides.reduce((n, s) => n + s.places, 0);
  const broken = sizing.rules.filter((r) => !r.holds);
  return (
    <aside aria-label={say`Kit`} className="flex flex-col gap-3">
      <h2>
        <Trans>The kit</Trans>
      </h2>
      <Stops sizing={sizing} writes={writes} closed={closed} />
      <fieldset disabled={closed} className="grid grid-cols-2 gap-x-3 gap-y-1">
        <PickField
          label={say`Nipples`}
          value={kit.nipple_part ?? ""}
          options={[
            { value: "", text: say`none picked` },
            ...sizing.nipple_parts.map((p) => ({ value: p.id, text: `${p.name} (${p.free})` })),
          ]}
          onChange={(v) => writes.kit.go({ nipple_part: v || null })}
          className="col-span-2"
        />
        <TakeFrom bins={sizing.nipple_parts} part={kit.nipple_part} wanted={places} writes={writes} />
        <Figure name="rim_hole_mm" label={say`Rim hole, mm`} value={kit.rim_hole_mm} writes={writes} />
        <Figure name="key_mm" label={say`Spoke key, mm`} value={kit.key_mm} writes={writes} />
        <PickField
          label={say`Rim had`}
          value={kit.rim_had_washers ? "yes" : "no"}
          options={[
            { value: "no", text: say`no washers` },
            { value: "yes", text: say`washers` },
          ]}
          onChange={(v) => writes.kit.go({ rim_had_washers: v === "yes" })}
        />
        <PickField
          label={say`Washers now`}
          value={kit.washers}
          options={[
            { value: "none", text: say`none` },
            { value: "new", text: say`new ones` },
            { value: "old", text: say`the old ones` },
          ]}
          onChange={(v) =>
            writes.kit.go({
              washers: v as "none" | "new" | "old",
              washer_count: v === "new" ? places : 0,
            })
          }
        />
        {kit.washers === "new" && (
          <PickField
            label={say`Which washers`}
            value={kit.washer_part ?? ""}
            options={[
              { value: "", text: say`none picked` },
              ...sizing.washer_parts.map((p) => ({ value: p.id, text: `${p.name} (${p.free})` })),
            ]}
            onChange={(v) => writes.kit.go({ washer_part: v || null })}
            className="col-span-2"
          />
        )}
        {kit.washers === "new" && (
          <TakeFrom bins={sizing.washer_parts} part={kit.washer_part} wanted={places} writes={writes} />
        )}
        {sizing.sides
          .filter((s) => s.places > 0 && s.chosen && !s.chosen.part)
          .map((s) => (
            <Figure
              key={s.side}
              name={s.side === "R" ? "right_count" : "left_count"}
              label={s.side === "R" ? say`Right spokes at hand` : say`Left spokes at hand`}
              value={(s.side === "R" ? kit.right_count : kit.left_count) ?? 0}
              writes={writes}
            />
          ))}
        <Choice
          label={say`What is replaced`}
          value={kit.whole_wheel ? "all" : "broken"}
          onChange={(v) => writes.kit.go({ whole_wheel: v === "all" })}
          small
          options={[
            { value: "broken", text: say`replace broken` },
            { value: "all", text: say`every spoke` },
          ]}
          className="col-span-2"
        />
        <Choice
          label={say`One of each length held to the ruler`}
          value={kit.measured_one ? "yes" : "no"}
          onChange={(v) => writes.kit.go({ measured_one: v === "yes" })}
          small
          options={[
            { value: "no", text: say`lengths unproven` },
            { value: "yes", text: say`one of each measured` },
          ]}
          className="col-span-2"
        />
      </fieldset>
      {sizing.rules.length === 0 ? (
        <p className="text-muted">
          <Trans>Choose the lengths first; then the kit is judged as a whole.</Trans>
        </p>
      ) : (
        <>
          <p className="text-lg font-bold" aria-live="polite">
            {broken.length === 0
              ? say`Everything fits together.`
              : say`${broken.length} of ${sizing.rules.length} do not hold.`}
          </p>
          <Rules rules={broken.filter((r) => r.level !== "stop")} />
          {broken.length < sizing.rules.length && (
            <details>
              <summary className="min-h-11 cursor-pointer py-2 text-sm">
                <Trans>{sizing.rules.length - broken.length} that hold</Trans>
              </summary>
              <Rules rules={sizing.rules.filter((r) => r.holds)} />
            </details>
          )}
        </>
      )}
    </aside>
  );
}

/** What stops the work comes first, with the one way past it: a word why. */
function Stops({ sizing, writes, closed }: KitSheetProps) {
  const stops = sizing.rules.filter((r) => !r.holds && r.level === "stop");
  const [why, setWhy] = useState(sizing.kit.despite);
  if (stops.length === 0) return null;
  const error = writes.kit.error instanceof Problem ? writes.kit.error.for("despite") : undefined;
  return (
    <div role="alert" className="flex flex-col gap-2 border-l-8 border-danger bg-danger-soft p-2">
      <p className="font-bold">
        <Trans>Stop: this does not fit together.</Trans>
      </p>
      <Rules rules={stops} />
      {!closed && (
        <form
          className="flex items-end gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            writes.kit.go({ despite: why });
          }}
        >
          <TextField
            label={say`Laced all the same, since`}
            value={why}
            onChange={setWhy}
            error={error}
            maxLength={300}
            className="flex-1"
          />
          <Button type="submit" disabled={writes.kit.pending || why === sizing.kit.despite}>
            <Trans>Keep</Trans>
          </Button>
        </form>
      )}
    </div>
  );
}

interface TakeFromProps {
  bins: Sizing["nipple_parts"];
  part: string | null;
  wanted: number;
  writes: ReturnType<typeof useSizing>;
}

/** Small parts out of their bin, as many as are still missing. */
function TakeFrom({ bins, part, wanted, writes }: TakeFromProps) {
  const bin = bins.find((p) => p.id === part);
  if (!bin) return null;
  const missing = wanted - bin.taken;
  const refused = writes.move.asked?.part === bin.id && writes.move.error;
  return (
    <div className="col-span-2 flex flex-col gap-1 text-sm">
      {missing > 0 ? (
        <Button
          className="text-sm"
          disabled={writes.move.pending}
          onClick={() => writes.move.go({ part: bin.id, kind: "take", count: missing })}
        >
          <Trans>
            Take {missing} from {bin.bin || say`the bin`}
          </Trans>
        </Button>
      ) : (
        <p>
          <Trans>{bin.taken} taken</Trans>
        </p>
      )}
      {refused && <Notice kind="refusal">{sentenceOf(writes.move.error)}</Notice>}
    </div>
  );
}

function Rules({ rules }: { rules: Sizing["rules"] }) {
  return (
    <ul className="flex flex-col gap-1 text-sm">
      {rules.map((r) => (
        <li
          key={`${r.key}${r.side ?? ""}`}
          className={classes(
            "border-l-4 pl-2",
            r.holds ? "border-transparent" : r.level === "note" ? "border-line-strong" : "border-danger",
          )}
        >
          <span className={r.holds ? "" : "font-bold"}>
            {r.holds ? "✓" : r.level === "stop" ? "✗" : "!"} {NAMES[r.key] ?? r.key}
            {r.side && (r.side === "R" ? say`, right` : say`, left`)}
          </span>
          : {r.found}
          {!r.holds && <span className="block">{r.reason}</span>}
        </li>
      ))}
    </ul>
  );
}

interface FigureProps {
  name: "rim_hole_mm" | "key_mm" | "right_count" | "left_count";
  label: string;
  value: number | null;
  writes: ReturnType<typeof useSizing>;
}

function Figure({ name, label, value, writes }: FigureProps) {
  const [text, setText] = useState(value === null ? "" : String(value));
  const error = writes.kit.error instanceof Problem ? writes.kit.error.for(name) : undefined;
  const send = () => {
    // An empty field is nothing measured, never a usual figure.
    if (text.trim() === "") {
      if (value !== null) writes.kit.go({ [name]: null });
      return;
    }
    const mm = typedNumber(text) ?? NaN;
    if (mm !== value && Number.isFinite(mm)) writes.kit.go({ [name]: mm });
  };
  return (
    <NumberField
      label={label}
      value={text}
      onChange={setText}
      onBlur={send}
      onKeyDown={(e) => e.key === "Enter" && send()}
      error={error}
    />
  );
}

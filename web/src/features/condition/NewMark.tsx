import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { typedNumber } from "@/ui/number";
import { NumberField } from "@/ui/NumberField";
import { useState } from "react";
import type { Schemas } from "@/api/client";
import { Problem, sentenceOf } from "@/api/problem";
import { Button } from "@/ui/Button";
import { PickField, TextField } from "@/ui/Field";
import { Notice } from "@/ui/Notice";
import { useCondition } from "./useRepair";
import { within } from "@/ui/words";

interface NewMarkProps {
  jobId: string;
  kinds: readonly Schemas["ConditionKind"][];
  spoke: string;
  onSpoke: (spoke: string) => void;
  onStep: (by: number) => void;
  carbon: boolean;
}

const PARTS = { rim: say`Rim`, spoke: say`Spokes and nipples`, hub: say`Hub` } as const;
const MEASURES: Record<string, { label: string; help: string }> = {
  depth: { label: say`Depth, mm`, help: say`Straight edge and ruler.` },
  wall: {
    label: say`Wall, mm`,
    help: say`Caliper over two pins in the hollow; take the pins off.`,
  },
};

/** Note damage: what, where, how deep. Enter records it. */
export function NewMark({ jobId, kinds, spoke, onSpoke, onStep, carbon }: NewMarkProps) {
  const [kind, setKind] = useState("dent");
  const [measure, setMeasure] = useState("");
  const [note, setNote] = useState("");
  const { mark } = useCondition(jobId);
  const about = kinds.find((k) => k.key === kind);
  const needs = about?.measure ? MEASURES[about.measure] : undefined;
  const number = typedNumber(measure) ?? NaN;
  const problem = mark.error instanceof Problem ? mark.error : null;
  const placed = ["kind", "spoke", "measure_mm"].some((f) => problem?.for(f));
  return (
    <form
      aria-label={say`Note what was found`}
      className="flex flex-col gap-2 rounded-md border border-line bg-plate p-4"
      onSubmit={(event) => {
        event.preventDefault();
        mark.go(
          {
            kind: kind as Schemas["ConditionKindEnum"],
            spoke: about?.placed ? spoke : "",
            measure_mm: needs && measure.trim() ? (Number.isNaN(number) ? null : number) : null,
            note,
          },
          () => {
            setMeasure("");
            setNote("");
          },
        );
      }}
    >
      <div className="flex flex-wrap items-start gap-3">
        <PickField
          label={say`What`}
          value={kind}
          onChange={setKind}
          error={problem?.for("kind")}
          options={kinds.map((k) => ({ value: k.key, text: `${PARTS[k.part]}: ${within(k.name)}` }))}
          className="w-56"
        />
        {about?.placed && (
          <div className="flex items-start gap-1">
            <TextField
              label={say`At spoke`}
              value={spoke}
              onChange={(text) => onSpoke(text.toUpperCase())}
              error={problem?.for("spoke")}
              className="w-20"
            />
            <Button aria-label={say`Spoke before`} className="mt-6 px-3" onClick={() => onStep(-1)}>
              ‹
            </Button>
            <Button aria-label={say`Next spoke`} className="mt-6 px-3" onClick={() => onStep(1)}>
              ›
            </Button>
          </div>
        )}
        {needs && (
          <NumberField
            label={needs.label}
            value={measure}
            onChange={setMeasure}
            error={
              measure.trim() && Number.isNaN(number)
                ? say`Enter a number of millimetres`
                : problem?.for("measure_mm")
            }
            help={needs.help}
            className="w-44"
          />
        )}
      </div>
      <div className="flex items-start gap-3 hand:sticky hand:bottom-0 hand:z-10 hand:bg-plate">
        <TextField label={say`Note`} value={note} onChange={setNote} className="flex-1" maxLength={300} />
        <Button type="submit" weight="now" disabled={mark.pending} className="mt-6">
          <Trans>Record it</Trans>
        </Button>
      </div>
      {carbon && (
        <Notice kind="caution">
          <Trans>
            Carbon rim: no dent to bend back, no scratch to ignore, its maker&rsquo;s limits only.
          </Trans>
        </Notice>
      )}
      {mark.error && !placed && <Notice kind="refusal">{sentenceOf(mark.error)}</Notice>}
    </form>
  );
}

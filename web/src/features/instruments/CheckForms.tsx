import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { typedNumber } from "@/ui/number";
import { NumberField } from "@/ui/NumberField";
import { useWrite } from "@/write/useWrite";
import { touches } from "@/api/keys";
import { useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { sentenceOf } from "@/api/problem";
import { Button } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { TextField } from "@/ui/Field";
import { Notice } from "@/ui/Notice";

type Instrument = Schemas["Instrument"];
type Side = "R" | "L";

/** A check in its own words: against what, what it showed, passed or not. */
export function CheckForm({ instrument }: { instrument: Instrument }) {
  const [note, setNote] = useState("");
  const [passed, setPassed] = useState<"yes" | "no">("yes");
  const send = useWrite({
    touches: touches.instruments(),
    send: (_: void, head) =>
      answer(
        client.POST("/api/v1/instruments/{instrument_id}/checks", {
          params: { path: { instrument_id: instrument.id } },
          ...head,
          body: { passed: passed === "yes", note },
        }),
      ),
    onSaved: () => {
      setNote("");
    },
  });
  const problem = send.refused;
  return (
    <form
      aria-label={say`Check it`}
      className="flex flex-wrap items-start gap-4 rounded-md border border-line bg-plate p-4"
      onSubmit={(event) => {
        event.preventDefault();
        send.go();
      }}
    >
      <TextField
        label={say`Checked against what, and what it showed`}
        value={note}
        onChange={setNote}
        error={problem?.for("note")}
        help={instrument.how_to_check}
        className="min-w-80 flex-1"
      />
      <Choice
        label={say`Did it pass`}
        value={passed}
        onChange={setPassed}
        options={[
          { value: "yes", text: say`passed` },
          { value: "no", text: say`failed` },
        ]}
        className="mt-6"
      />
      <Button type="submit" weight="now" className="mt-6" disabled={send.pending}>
        <Trans>Sign the check</Trans>
      </Button>
      {problem && !problem.for("note") && <Notice kind="refusal">{sentenceOf(problem)}</Notice>}
    </form>
  );
}

/** One wheel, the right way round and flipped: half the sum is the stand's own error. */
export function StandForm({ instrument }: { instrument: Instrument }) {
  const [first, setFirst] = useState("");
  const [flipped, setFlipped] = useState("");
  const [firstSide, setFirstSide] = useState<Side>("R");
  const [flippedSide, setFlippedSide] = useState<Side>("L");
  const send = useWrite({
    touches: touches.instruments(),
    send: (_: void, head) =>
      answer(
        client.POST("/api/v1/instruments/{instrument_id}/stand-checks", {
          params: { path: { instrument_id: instrument.id } },
          ...head,
          body: {
            first_mm: typedNumber(first) ?? NaN,
            first_side: firstSide,
            flipped_mm: typedNumber(flipped) ?? NaN,
            flipped_side: flippedSide,
          },
        }),
      ),
    onSaved: () => {
      setFirst("");
      setFlipped("");
    },
  });
  const problem = send.refused;
  const row = (
    label: string,
    field: string,
    value: string,
    onChange: (v: string) => void,
    side: Side,
    onSide: (s: Side) => void,
  ) => (
    <div className="flex items-start gap-3">
      <NumberField
        label={label}
        value={value}
        onChange={onChange}
        error={problem?.for(field)}
        className="w-64"
        required
      />
      <Choice<Side>
        label={say`${label}: toward`}
        value={side}
        onChange={onSide}
        options={[
          { value: "L", text: say`stand's left` },
          { value: "R", text: say`stand's right` },
        ]}
        className="mt-6"
      />
    </div>
  );
  return (
    <form
      aria-label={say`Check the stand by flipping`}
      className="flex flex-col gap-2 rounded-md border border-line bg-plate p-4"
      onSubmit={(event) => {
        event.preventDefault();
        send.go();
      }}
    >
      <p className="text-sm text-muted">
        <Trans>{instrument.how_to_check} Say where the rim sits against the stand&rsquo;s own middle.</Trans>
      </p>
      {row(say`Right way round, mm`, "first_mm", first, setFirst, firstSide, setFirstSide)}
      {row(say`Flipped, mm`, "flipped_mm", flipped, setFlipped, flippedSide, setFlippedSide)}
      <Button type="submit" weight="now" className="self-start" disabled={send.pending}>
        <Trans>Judge the stand</Trans>
      </Button>
      {problem && problem.errors.length === 0 && <Notice kind="refusal">{sentenceOf(problem)}</Notice>}
    </form>
  );
}

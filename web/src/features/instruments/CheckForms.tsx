import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Schemas, writeKey } from "@/api/client";
import { Problem, sentenceOf } from "@/api/problem";
import { Button } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { TextField } from "@/ui/Field";
import { Notice } from "@/ui/Notice";

type Instrument = Schemas["Instrument"];
type Side = "R" | "L";

/** A check in its own words: against what, what it showed, passed or not. */
export function CheckForm({ instrument }: { instrument: Instrument }) {
  const queries = useQueryClient();
  const [note, setNote] = useState("");
  const [passed, setPassed] = useState<"yes" | "no">("yes");
  const send = useMutation({
    mutationFn: () =>
      answer(
        client.POST("/api/v1/instruments/{instrument_id}/checks", {
          params: { path: { instrument_id: instrument.id } },
          headers: { "Idempotency-Key": writeKey() },
          body: { passed: passed === "yes", note },
        }),
      ),
    onSuccess: async () => {
      setNote("");
      await queries.invalidateQueries({ queryKey: ["instruments"] });
    },
  });
  const problem = send.error instanceof Problem ? send.error : null;
  return (
    <form
      aria-label="Check it"
      className="flex flex-wrap items-start gap-4 rounded-md border border-line bg-plate p-4"
      onSubmit={(event) => {
        event.preventDefault();
        send.mutate();
      }}
    >
      <TextField
        label="Checked against what, and what it showed"
        value={note}
        onChange={setNote}
        error={problem?.for("note")}
        help={instrument.how_to_check}
        className="min-w-80 flex-1"
      />
      <Choice
        label="Did it pass"
        value={passed}
        onChange={setPassed}
        options={[
          { value: "yes", text: "passed" },
          { value: "no", text: "failed" },
        ]}
        className="mt-6"
      />
      <Button type="submit" weight="now" className="mt-6" disabled={send.isPending}>
        Sign the check
      </Button>
      {problem && !problem.for("note") && <Notice kind="refusal">{sentenceOf(problem)}</Notice>}
    </form>
  );
}

/** One wheel, the right way round and flipped: half the sum is the stand's own error. */
export function StandForm({ instrument }: { instrument: Instrument }) {
  const queries = useQueryClient();
  const [first, setFirst] = useState("");
  const [flipped, setFlipped] = useState("");
  const [firstSide, setFirstSide] = useState<Side>("R");
  const [flippedSide, setFlippedSide] = useState<Side>("L");
  const send = useMutation({
    mutationFn: () =>
      answer(
        client.POST("/api/v1/instruments/{instrument_id}/stand-checks", {
          params: { path: { instrument_id: instrument.id } },
          headers: { "Idempotency-Key": writeKey() },
          body: {
            first_mm: Number(first.replace(",", ".")),
            first_side: firstSide,
            flipped_mm: Number(flipped.replace(",", ".")),
            flipped_side: flippedSide,
          },
        }),
      ),
    onSuccess: async () => {
      setFirst("");
      setFlipped("");
      await queries.invalidateQueries({ queryKey: ["instruments"] });
    },
  });
  const problem = send.error instanceof Problem ? send.error : null;
  const row = (
    label: string,
    field: string,
    value: string,
    onChange: (v: string) => void,
    side: Side,
    onSide: (s: Side) => void,
  ) => (
    <div className="flex items-start gap-3">
      <TextField
        label={label}
        value={value}
        inputMode="decimal"
        onChange={onChange}
        error={problem?.for(field)}
        className="w-64"
        required
      />
      <Choice<Side>
        label={`${label}: toward`}
        value={side}
        onChange={onSide}
        options={[
          { value: "L", text: "stand's left" },
          { value: "R", text: "stand's right" },
        ]}
        className="mt-6"
      />
    </div>
  );
  return (
    <form
      aria-label="Check the stand by flipping"
      className="flex flex-col gap-2 rounded-md border border-line bg-plate p-4"
      onSubmit={(event) => {
        event.preventDefault();
        send.mutate();
      }}
    >
      <p className="text-sm text-muted">
        {instrument.how_to_check} Say where the rim sits against the stand&rsquo;s own middle.
      </p>
      {row("Right way round, mm", "first_mm", first, setFirst, firstSide, setFirstSide)}
      {row("Flipped, mm", "flipped_mm", flipped, setFlipped, flippedSide, setFlippedSide)}
      <Button type="submit" weight="now" className="self-start" disabled={send.isPending}>
        Judge the stand
      </Button>
      {problem && problem.errors.length === 0 && <Notice kind="refusal">{sentenceOf(problem)}</Notice>}
    </form>
  );
}

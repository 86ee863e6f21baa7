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
import { PickField, TextField } from "@/ui/Field";
import { Notice } from "@/ui/Notice";
import { dayAndTime, dayName } from "@/ui/when";
import { CheckForm, StandForm } from "./CheckForms";
import { Tables } from "./Tables";

type Instrument = Schemas["Instrument"];

/** One instrument: where it stands, its tables, its checks. */
export function InstrumentDetail({ instrument }: { instrument: Instrument }) {
  const [part, setPart] = useState<"tables" | "checks">(
    instrument.kind === "tension_meter" ? "tables" : "checks",
  );
  const { standing } = instrument;
  return (
    <section aria-label={instrument.name} className="flex min-w-0 flex-col gap-4">
      <div className="flex flex-wrap items-start gap-x-8 gap-y-1">
        <div>
          <h2 className="text-2xl">{instrument.name}</h2>
          <p className="text-muted">
            {instrument.kind_name}
            {instrument.serial && `, ${instrument.serial}`}
            {instrument.owner && say`, belongs to ${instrument.owner}`}
          </p>
        </div>
        <p className={standing.warns ? "font-bold text-danger" : ""}>
          {standing.why[0]?.toUpperCase()}
          {standing.why.slice(1)}.{" "}
          {standing.due_on && (
            <span className="text-muted">
              <Trans>Next check by {dayName(new Date(standing.due_on))}.</Trans>
            </span>
          )}
        </p>
      </div>
      {standing.warns && (
        <Notice kind="caution">
          <Trans>Readings that it takes are kept, and say so on their screens, also later.</Trans>
        </Notice>
      )}
      <Facts key={instrument.version} instrument={instrument} />
      {instrument.kind === "tension_meter" && (
        <Choice
          label={say`What of it`}
          value={part}
          onChange={setPart}
          options={[
            { value: "tables", text: say`Tables and calibration` },
            { value: "checks", text: say`Checks (${instrument.checks.length})` },
          ]}
        />
      )}
      {part === "tables" && instrument.kind === "tension_meter" ? (
        <Tables instrument={instrument} />
      ) : (
        <>
          {instrument.kind === "stand" ? (
            <StandForm instrument={instrument} />
          ) : (
            <CheckForm instrument={instrument} />
          )}
          <ol aria-label={say`Checks made`}>
            {instrument.checks.map((c) => (
              <li key={c.id} className="border-t border-line py-1">
                <strong>{c.passed ? "✓" : "✗"}</strong> {c.note}{" "}
                <span className="text-sm text-muted">
                  {c.by}, {dayAndTime(c.created_at)}
                </span>
              </li>
            ))}
          </ol>
        </>
      )}
    </section>
  );
}

/** Its own facts, changed in place. */
function Facts({ instrument }: { instrument: Instrument }) {
  const [days, setDays] = useState(String(instrument.check_every_days));
  const [address, setAddress] = useState(instrument.address);
  const change = useWrite({
    touches: touches.instruments(),
    send: (body: Omit<Schemas["PatchedInstrumentChangeRequest"], "version">, head) =>
      answer(
        client.PATCH("/api/v1/instruments/{instrument_id}", {
          params: { path: { instrument_id: instrument.id } },
          ...head,
          body: { version: instrument.version, ...body },
        }),
      ),
    onSaved: () => {},
  });
  const problem = change.refused;
  return (
    <form
      aria-label={say`Facts`}
      className="flex flex-wrap items-start gap-4"
      onSubmit={(event) => {
        event.preventDefault();
        change.go({ check_every_days: typedNumber(days) ?? NaN, address });
      }}
    >
      <PickField
        label={say`Use`}
        value={instrument.use}
        options={[
          { value: "in_use", text: say`in use` },
          { value: "resting", text: say`put aside` },
          { value: "retired", text: say`retired` },
        ]}
        onChange={(use) => change.go({ use: use as NonNullable<Instrument["use"]> })}
        className="w-36"
      />
      <NumberField
        label={say`Check every, days`}
        min={1}
        max={3650}
        unit={say`days`}
        whole
        value={days}
        onChange={setDays}
        error={problem?.for("check_every_days")}
        className="w-36"
      />
      <TextField
        label={say`Streams at`}
        value={address}
        onChange={setAddress}
        error={problem?.for("address")}
        help={say`host:port, or empty`}
        className="w-52"
      />
      <Button type="submit" className="mt-6" disabled={change.pending}>
        <Trans>Set</Trans>
      </Button>
      {problem && problem.errors.length === 0 && <Notice kind="refusal">{sentenceOf(problem)}</Notice>}
    </form>
  );
}

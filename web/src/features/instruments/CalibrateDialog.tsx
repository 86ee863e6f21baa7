import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { figure, wrongIn, typedNumber } from "@/ui/number";
import { useWrite } from "@/write/useWrite";
import { touches } from "@/api/keys";
import { useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { sentenceOf } from "@/api/problem";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { PickField, TextField } from "@/ui/Field";
import { Notice } from "@/ui/Notice";
import { TablePlot } from "./TablePlot";

interface Row {
  load: string;
  reading: string;
}

const EMPTY: Row = { load: "", reading: "" };
const GRAVITY = 9.80665;

/** Known loads against what the meter shows: fitted, plotted, compared with the last table, then signed. */
export function CalibrateDialog({
  instrument,
  onClose,
}: {
  instrument: Schemas["Instrument"];
  onClose: () => void;
}) {
  const [kind, setKind] = useState(instrument.tables[0]?.spoke_kind ?? "round 2.0");
  const [unit, setUnit] = useState<"N" | "kg">("N");
  const [rows, setRows] = useState<Row[]>(() => Array.from({ length: 6 }, () => EMPTY));
  const [note, setNote] = useState("");
  const send = useWrite({
    touches: touches.instruments(),
    send: (keep: boolean, head) => {
      const typed = rows.filter((r) => r.load.trim() || r.reading.trim());
      const number = (text: string) => typedNumber(text) ?? NaN;
      return answer(
        client.POST("/api/v1/instruments/{instrument_id}/calibrations", {
          params: { path: { instrument_id: instrument.id } },
          ...head,
          body: {
            spoke_kind: kind.trim(),
            readings: typed.map((r) => number(r.reading)),
            loads_n: typed.map((r) => number(r.load) * (unit === "kg" ? GRAVITY : 1)),
            note,
            keep,
          },
        }),
      );
    },
    onSaved: (_, kept) => {
      if (!kept) return;
      onClose();
    },
  });
  const fit = send.data;
  const problem = send.refused;
  const set = (i: number, change: Partial<Row>) => {
    send.reset();
    setRows((old) => {
      const next = old.map((r, j) => (j === i ? { ...r, ...change } : r));
      return i === next.length - 1 ? [...next, EMPTY] : next;
    });
  };
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={say`Calibrate ${instrument.name}`}
      lead={say`Hang known loads on one spoke, at least four different ones over the range that you use; repeats are welcome.`}
    >
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          send.go(false);
        }}
      >
        <div className="flex gap-3">
          <TextField
            label={say`Spoke kind`}
            value={kind}
            onChange={setKind}
            error={problem?.for("spoke_kind")}
            help={say`As wheels name it: round 2.0, blade 0.9x2.2`}
            className="w-56"
          />
          <PickField
            label={say`Loads in`}
            value={unit}
            options={[
              { value: "N", text: "N" },
              { value: "kg", text: say`kg hung` },
            ]}
            onChange={(u) => setUnit(u as "N" | "kg")}
            className="w-32"
          />
        </div>
        <div className="grid grid-cols-[repeat(auto-fill,minmax(130px,1fr))] gap-2">
          {rows.map((row, i) => (
            <fieldset key={i} className="flex gap-1">
              <legend className="sr-only">
                <Trans>Point {i + 1}</Trans>
              </legend>
              <input
                aria-label={say`Load ${i + 1}`}
                placeholder={unit}
                inputMode="decimal"
                value={row.load}
                aria-invalid={Boolean(wrongIn(row.load))}
                onChange={(e) => set(i, { load: e.target.value })}
                className="min-h-11 w-full min-w-0 rounded-sm border border-line-strong bg-plate px-2 font-figure"
              />
              <input
                aria-label={say`Reading ${i + 1}`}
                placeholder={say`shows`}
                inputMode="decimal"
                value={row.reading}
                aria-invalid={Boolean(wrongIn(row.reading))}
                onChange={(e) => set(i, { reading: e.target.value })}
                className="min-h-11 w-full min-w-0 rounded-sm border border-line-strong bg-plate px-2 font-figure"
              />
            </fieldset>
          ))}
        </div>
        {send.error && (
          <Notice kind="refusal">{problem?.errors[0]?.message ?? sentenceOf(send.error)}</Notice>
        )}
        {fit && (
          <>
            <TablePlot curve={fit.curve} points={fit.points} label={fit.spoke_kind} />
            <p>
              <Trans>
                Scatter <strong>±{figure(fit.sd_n, 0)} N</strong>; the grey band holds the curve 95 times in a
                hundred.{" "}
                {fit.drift &&
                  say`Against the last table it reads ${figure(Math.abs(fit.drift.largest_n), 0)} N ${fit.drift.largest_n > 0 ? say`more` : say`less`} at most, near ${fit.drift.at_reading}.`}
              </Trans>
            </p>
            {fit.drift?.drifted && (
              <Notice kind="caution">
                <Trans>The meter has drifted: readings that it took since its last table will say so.</Trans>
              </Notice>
            )}
            <TextField
              label={say`How it was done`}
              value={note}
              onChange={setNote}
              help={say`Which loads, on what`}
            />
          </>
        )}
        <div className="flex justify-end gap-3">
          <Button onClick={onClose}>
            <Trans>Leave it</Trans>
          </Button>
          <Button type="submit" weight={fit ? "plain" : "now"} disabled={send.pending}>
            <Trans>Fit</Trans>
          </Button>
          {fit && (
            <Button weight="now" disabled={send.pending} onClick={() => send.go(true)}>
              <Trans>Sign it, and use it</Trans>
            </Button>
          )}
        </div>
      </form>
    </Dialog>
  );
}

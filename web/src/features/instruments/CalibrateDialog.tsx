import { wrongIn, typedNumber } from "@/ui/number";
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
      title={`Calibrate ${instrument.name}`}
      lead="Hang known loads on one spoke, at least four different ones over the range that you use; repeats are welcome."
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
            label="Spoke kind"
            value={kind}
            onChange={setKind}
            error={problem?.for("spoke_kind")}
            help="As wheels name it: round 2.0, blade 0.9x2.2"
            className="w-56"
          />
          <PickField
            label="Loads in"
            value={unit}
            options={[
              { value: "N", text: "N" },
              { value: "kg", text: "kg hung" },
            ]}
            onChange={(u) => setUnit(u as "N" | "kg")}
            className="w-32"
          />
        </div>
        <div className="grid grid-cols-[repeat(auto-fill,minmax(130px,1fr))] gap-2">
          {rows.map((row, i) => (
            <fieldset key={i} className="flex gap-1">
              <legend className="sr-only">Point {i + 1}</legend>
              <input
                aria-label={`Load ${i + 1}`}
                placeholder={unit}
                inputMode="decimal"
                value={row.load}
                aria-invalid={Boolean(wrongIn(row.load))}
                onChange={(e) => set(i, { load: e.target.value })}
                className="min-h-11 w-full min-w-0 rounded-sm border border-line-strong bg-plate px-2 font-figure"
              />
              <input
                aria-label={`Reading ${i + 1}`}
                placeholder="shows"
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
              Scatter <strong>±{fit.sd_n.toFixed(0)} N</strong>; the grey band holds the curve 95 times in a
              hundred.{" "}
              {fit.drift &&
                `Against the last table it reads ${Math.abs(fit.drift.largest_n).toFixed(0)} N ${fit.drift.largest_n > 0 ? "more" : "less"} at most, near ${fit.drift.at_reading}.`}
            </p>
            {fit.drift?.drifted && (
              <Notice kind="caution">
                The meter has drifted: readings that it took since its last table will say so.
              </Notice>
            )}
            <TextField label="How it was done" value={note} onChange={setNote} help="Which loads, on what" />
          </>
        )}
        <div className="flex justify-end gap-3">
          <Button onClick={onClose}>Leave it</Button>
          <Button type="submit" weight={fit ? "plain" : "now"} disabled={send.pending}>
            Fit
          </Button>
          {fit && (
            <Button weight="now" disabled={send.pending} onClick={() => send.go(true)}>
              Sign it, and use it
            </Button>
          )}
        </div>
      </form>
    </Dialog>
  );
}

import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { figure, typedNumber } from "@/ui/number";
import { NumberField } from "@/ui/NumberField";
import { useWrite } from "@/write/useWrite";
import { touches } from "@/api/keys";
import { useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { sentenceOf } from "@/api/problem";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { TextField } from "@/ui/Field";
import { Notice } from "@/ui/Notice";
import { TablePlot } from "./TablePlot";

interface DeriveDialogProps {
  instrument: Schemas["Instrument"];
  table: Schemas["KeptTable"];
  onClose: () => void;
}

type Spoke = Schemas["SpokeFieldsRequest"];

/** What a table's name says of its spoke: "round 1.8" or "blade 0.9x2.2". */
function spokeOf(kind: string): Spoke {
  const numbers = kind.match(/[\d.]+/g)?.map(Number) ?? [];
  if (kind.startsWith("blade"))
    return { end_diameter_mm: 2, blade_thickness_mm: numbers[0] ?? null, blade_width_mm: numbers[1] ?? null };
  const middle = numbers[0] ?? 2;
  return { end_diameter_mm: Math.max(2, middle), middle_diameter_mm: middle };
}

/** Carry a table over to another thickness through the meter's own bending, marked as derived. */
export function DeriveDialog({ instrument, table, onClose }: DeriveDialogProps) {
  const [to, setTo] = useState("round 1.8");
  const [span, setSpan] = useState("100");
  const [move, setMove] = useState("-0.05");
  const number = (text: string) => typedNumber(text) ?? NaN;
  const send = useWrite({
    touches: touches.instruments(),
    send: (keep: boolean, head) =>
      answer(
        client.POST("/api/v1/instruments/{instrument_id}/derived-tables", {
          params: { path: { instrument_id: instrument.id } },
          ...head,
          body: {
            table: table.id,
            of: spokeOf(table.spoke_kind),
            to: spokeOf(to.trim()),
            span_mm: number(span),
            mm_per_unit: number(move),
            keep,
          },
        }),
      ),
    onSaved: (_, kept) => {
      if (!kept) return;
      onClose();
    },
  });
  const problem = send.refused;
  const found = send.data;
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={say`From ${table.spoke_kind} to another spoke`}
      lead={say`The meter bends the spoke between two posts; a thinner one bends more easily. Less sure than a chart or a calibration.`}
    >
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          send.go(false);
        }}
      >
        <div className="flex flex-wrap gap-3">
          <TextField
            label={say`Spoke kind`}
            value={to}
            onChange={setTo}
            help={say`round 1.8, blade 0.9x2.2`}
            className="w-44"
          />
          <NumberField
            label={say`Posts apart, mm`}
            min={0}
            unit="mm"
            value={span}
            onChange={setSpan}
            error={problem?.for("span_mm")}
            className="w-36"
          />
          <TextField
            label={say`Plunger moves, mm per unit`}
            value={move}
            onChange={setMove}
            error={problem?.for("mm_per_unit")}
            help={say`minus where the reading falls as it goes in`}
            className="w-56"
          />
        </div>
        {problem && !problem.for("span_mm") && !problem.for("mm_per_unit") && (
          <Notice kind="refusal">{problem.errors[0]?.message ?? sentenceOf(problem)}</Notice>
        )}
        {found && (
          <>
            <TablePlot
              curve={found.readings.map((reading, i) => ({
                reading,
                force_n: found.forces_n[i] ?? 0,
                band_n: found.residual_n ?? 0,
              }))}
              points={[]}
              label={say`${found.spoke_kind}, derived`}
            />
            <p>
              <Trans>
                Derived for {found.spoke_kind}, <strong>±{figure(found.residual_n ?? 0, 0)} N</strong>.
                Calibrate for it when you can.
              </Trans>
            </p>
          </>
        )}
        <div className="flex justify-end gap-3">
          <Button onClick={onClose}>
            <Trans>Leave it</Trans>
          </Button>
          <Button type="submit" weight={found ? "plain" : "now"} disabled={send.pending}>
            <Trans>Work it out</Trans>
          </Button>
          {found && (
            <Button weight="now" disabled={send.pending} onClick={() => send.go(true)}>
              <Trans>Keep it, as derived</Trans>
            </Button>
          )}
        </div>
      </form>
    </Dialog>
  );
}

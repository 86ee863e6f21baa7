import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useWrite, WriteState } from "@/write/useWrite";
import { touches } from "@/api/keys";
import { useRef, useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { Notice } from "@/ui/Notice";
import { dayName } from "@/ui/when";
import { CalibrateDialog } from "./CalibrateDialog";
import { DeriveDialog } from "./DeriveDialog";
import { TablePlot } from "./TablePlot";
import { figure } from "@/ui/number";

const SOURCE: Record<Schemas["KeptTable"]["source"], string> = {
  maker: say`its maker's chart`,
  calibrated: say`calibrated here`,
  derived: say`derived from another thickness`,
};

/** A meter's tables: the newest for each kind of spoke, where it comes from, how sure it is. */
export function Tables({ instrument }: { instrument: Schemas["Instrument"] }) {
  const picker = useRef<HTMLInputElement>(null);
  const [picked, setPicked] = useState("");
  const [open, setOpen] = useState<"" | "calibrate" | "derive">("");
  const chart = useWrite({
    touches: touches.instruments(),
    send: (file: File, head) =>
      answer(
        client.POST("/api/v1/instruments/{instrument_id}/chart", {
          params: { path: { instrument_id: instrument.id }, query: { keep: true } },
          headers: { ...head.headers, "Content-Type": "text/csv" },
          body: file as unknown as string,
          bodySerializer: (body: unknown) => body as BodyInit,
        }),
      ),
  });
  const shown = instrument.tables.find((t) => t.id === picked) ?? instrument.tables[0];
  return (
    <div className="flex flex-col gap-3">
      <div className="flex flex-wrap gap-3">
        <Button weight="now" onClick={() => setOpen("calibrate")}>
          <Trans>Calibrate</Trans>
        </Button>
        <Button onClick={() => picker.current?.click()} disabled={chart.pending}>
          <Trans>Maker&rsquo;s chart from CSV</Trans>
        </Button>
        {shown && shown.source !== "derived" && (
          <Button onClick={() => setOpen("derive")}>
            <Trans>Derive for another spoke</Trans>
          </Button>
        )}
        <input
          ref={picker}
          type="file"
          accept=".csv,.tsv,.txt,text/csv"
          aria-label={say`Maker's chart`}
          className="sr-only"
          tabIndex={-1}
          onChange={(event) => {
            const file = event.target.files?.[0];
            if (file) chart.go(file);
            event.target.value = "";
          }}
        />
      </div>
      <WriteState of={chart} />
      {chart.data && (
        <Notice kind="news">
          <Trans>Taken over: {chart.data.map((t) => t.spoke_kind).join(", ")}.</Trans>
        </Notice>
      )}
      {instrument.tables.length === 0 && (
        <p className="text-muted">
          <Trans>
            No table yet. Take its maker&rsquo;s chart (columns: reading, then one of N per spoke kind such as
            “round 2.0”), or calibrate it with known loads.
          </Trans>
        </p>
      )}
      <div className="grid grid-cols-1 gap-6 xl:grid-cols-[minmax(0,360px)_1fr]">
        <ul aria-label={say`Tables`}>
          {instrument.tables.map((t) => (
            <li key={t.id} className="border-t border-line">
              <button
                type="button"
                aria-pressed={t.id === shown?.id}
                onClick={() => setPicked(t.id)}
                className={`min-h-12 w-full px-2 text-left ${t.id === shown?.id ? "bg-plate" : ""}`}
              >
                <span className="font-bold">{t.spoke_kind}</span> {SOURCE[t.source]}
                <span className="block text-sm text-muted">
                  <Trans>
                    {t.readings[0]}–{t.readings.at(-1)} units, ±{figure(t.residual_n, 0)} N, {t.by},{" "}
                    {dayName(new Date(t.created_at))}
                  </Trans>
                </span>
              </button>
            </li>
          ))}
        </ul>
        {shown && (
          <TablePlot
            curve={shown.readings.map((reading, i) => ({
              reading,
              force_n: shown.forces_n[i] ?? 0,
              band_n: shown.residual_n,
            }))}
            points={[]}
            label={`${shown.spoke_kind}, ${SOURCE[shown.source]}`}
          />
        )}
      </div>
      {open === "calibrate" && <CalibrateDialog instrument={instrument} onClose={() => setOpen("")} />}
      {open === "derive" && shown && (
        <DeriveDialog instrument={instrument} table={shown} onClose={() => setOpen("")} />
      )}
    </div>
  );
}

import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useWrite, WriteState } from "@/write/useWrite";
import { useRef, useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { PickField } from "@/ui/Field";
import { FilePreview } from "./FilePreview";

interface FileDialogProps {
  setId: string;
  derived: Schemas["Derived"];
  meters: readonly Schemas["Meter"][];
  onClose: () => void;
  onDone: () => void;
}

/** Readings from a file: looked at first, on the rim and row by row; then all of it, or nothing. */
export function FileDialog({ setId, derived, meters, onClose, onDone }: FileDialogProps) {
  const picker = useRef<HTMLInputElement>(null);
  const [file, setFile] = useState<File | null>(null);
  const [meter, setMeter] = useState(meters[0]?.id ?? "");
  const send = useWrite({
    send: ({ chosen, keep, by }: { chosen: File; keep: boolean; by: string }, head) =>
      answer(
        client.POST("/api/v1/reading-sets/{set_id}/csv", {
          params: { path: { set_id: setId }, query: { keep, ...(by ? { meter: by } : {}) } },
          headers: { ...head.headers, "Content-Type": "text/csv" },
          body: chosen as unknown as string,
          bodySerializer: (body: unknown) => body as BodyInit,
        }),
      ),
    onSaved: (found) => {
      if (!found.kept) return;
      onDone();
      onClose();
    },
  });
  const look = send.data;
  const inUnits = look?.rows.some((r) => r.unit === "meter");
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={say`Readings as a file`}
      lead={say`CSV with a line of headers: spoke (or angle_deg), tension_n, lateral_mm, radial_mm; other units in the header.`}
    >
      <div className="flex flex-col gap-4">
        <div className="flex flex-wrap items-center gap-4">
          <Button weight={look ? "plain" : "now"} onClick={() => picker.current?.click()}>
            <Trans>Choose a file</Trans>
          </Button>
          <a
            className="underline underline-offset-4"
            href={`/api/v1/reading-sets/${setId}/csv`}
            download="readings.csv"
          >
            <Trans>save these readings as CSV</Trans>
          </a>
          <input
            ref={picker}
            type="file"
            accept=".csv,.tsv,.txt,text/csv"
            aria-label={say`File of readings`}
            className="sr-only"
            tabIndex={-1}
            onChange={(event) => {
              const chosen = event.target.files?.[0];
              if (chosen) {
                setFile(chosen);
                send.go({ chosen, keep: false, by: meter });
              }
              event.target.value = "";
            }}
          />
        </div>
        <WriteState of={send} />
        {look && file && (
          <>
            <p>
              <Trans>
                <strong>{file.name}</strong>: {look.rows.length} values
                {look.dense && say`, a dense trace`}.{" "}
                <span className="text-muted">{look.said.join("; ")}.</span>
              </Trans>
            </p>
            {inUnits && (
              <PickField
                label={say`Its units are those of`}
                value={meter}
                options={meters.map((m) => ({ value: m.id, text: m.name }))}
                onChange={(next) => {
                  setMeter(next);
                  send.go({ chosen: file, keep: false, by: next });
                }}
              />
            )}
            <FilePreview look={look} derived={derived} />
            <div className="flex justify-end gap-3">
              <Button onClick={onClose}>
                <Trans>Leave it</Trans>
              </Button>
              <Button
                weight="now"
                disabled={!look.sound || send.pending}
                onClick={() => send.go({ chosen: file, keep: true, by: meter })}
              >
                {look.sound ? say`Take all ${look.rows.length}` : say`Not as it is: mend the file`}
              </Button>
            </div>
          </>
        )}
      </div>
    </Dialog>
  );
}

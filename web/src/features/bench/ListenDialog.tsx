import { Drawing } from "@/ui/Drawing";
import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useWrite, WriteState } from "@/write/useWrite";
import { useRef, useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { Dialog } from "@/ui/Dialog";
import { type ForceUnit, shownForce } from "@/ui/forces";
import { Notice } from "@/ui/Notice";
import { enter } from "@/write/outbox";
import { type Recording, record } from "./recorder";
import { figure } from "@/ui/number";

interface ListenDialogProps {
  setId: string;
  derived: Schemas["Derived"];
  /** Tensions read by a meter already, N by spoke: one on the side makes its pitches absolute. */
  known: ReadonlyMap<string, number>;
  unit: ForceUnit;
  onClose: () => void;
}

/** Tension by ear: pluck a side's spokes in order, and see how even they are; one meter reading makes them absolute. */
export function ListenDialog({ setId, derived, known, unit, onClose }: ListenDialogProps) {
  const [side, setSide] = useState<"R" | "L">("R");
  const [endsAt, setEndsAt] = useState<"crossing" | "whole">("crossing");
  const [recording, setRecording] = useState<Recording | null>(null);
  const [trouble, setTrouble] = useState("");
  const picker = useRef<HTMLInputElement>(null);
  const spokes = derived.spokes.filter((s) => s.side === side).map((s) => s.name);
  const hear = useWrite({
    send: (sound: Blob, head) =>
      answer(
        client.POST("/api/v1/reading-sets/{set_id}/recordings", {
          params: { path: { set_id: setId }, query: { spokes: spokes.join(","), ends_at: endsAt } },
          headers: { ...head.headers, "Content-Type": "audio/wav" },
          body: sound as unknown as string,
          bodySerializer: (body: unknown) => body as BodyInit,
        }),
      ),
  });
  const start = async () => {
    setTrouble("");
    try {
      setRecording(await record());
    } catch {
      setTrouble(say`This tablet's microphone cannot be used here. Take a WAV file instead.`);
    }
  };
  const stop = async () => {
    const sound = await recording?.stop();
    setRecording(null);
    if (sound) hear.go(sound);
  };
  const found = hear.data;
  const named = (found?.tones ?? []).filter((t) => t.spoke && t.tension_n !== null);
  const anchor = named.find((t) => known.has(t.spoke));
  const factor = anchor?.tension_n ? (known.get(anchor.spoke) ?? 0) / anchor.tension_n : 1;
  const keep = () => {
    for (const tone of named)
      enter(
        "reading",
        { set_id: setId },
        {
          kind: "tension",
          spoke: tone.spoke,
          value: tone.hz,
          unit: "Hz",
          ends_at: endsAt,
          ...(anchor ? { pitch_factor: Math.round(factor * 1000) / 1000 } : {}),
        },
      );
    onClose();
  };
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={say`Tension by ear`}
      lead={say`Pluck the spokes of one side in order from the valve, each near the rim, half a second apart.`}
    >
      <div className="flex flex-col gap-4">
        <div className="flex flex-wrap gap-4">
          <Choice
            label={say`Which side is plucked`}
            value={side}
            onChange={setSide}
            options={[
              { value: "R", text: say`right` },
              { value: "L", text: say`left` },
            ]}
          />
          <Choice
            label={say`Which part sounds`}
            value={endsAt}
            onChange={setEndsAt}
            options={[
              {
                value: "crossing",
                text: say`to the last crossing`,
                hint: say`Default: where spokes touch, the outer part sounds`,
              },
              { value: "whole", text: say`the whole spoke` },
            ]}
          />
        </div>
        <div className="flex flex-wrap items-center gap-3">
          {recording ? (
            <Button weight="now" onClick={() => void stop()}>
              <Trans>Stop and listen</Trans>
            </Button>
          ) : (
            <Button weight={found ? "plain" : "now"} onClick={() => void start()} disabled={hear.pending}>
              <Trans>Start the microphone</Trans>
            </Button>
          )}
          <Button onClick={() => picker.current?.click()} disabled={Boolean(recording)}>
            <Trans>Take a WAV file</Trans>
          </Button>
          <input
            ref={picker}
            type="file"
            accept=".wav,audio/wav,audio/x-wav"
            aria-label={say`Recording of plucks`}
            className="sr-only"
            tabIndex={-1}
            onChange={(event) => {
              const file = event.target.files?.[0];
              if (file) hear.go(file);
              event.target.value = "";
            }}
          />
          {recording && (
            <span role="status">
              <Trans>Recording: pluck {spokes[0]} first.</Trans>
            </span>
          )}
        </div>
        {trouble && <Notice kind="refusal">{trouble}</Notice>}
        <WriteState of={hear} />
        {found && (
          <>
            {found.heard !== found.expected && (
              <Notice kind="caution">
                <Trans>
                  {found.heard} tones heard for {found.expected} spokes: the names below may be shifted. Pluck
                  the side again, or keep only what you are sure of.
                </Trans>
              </Notice>
            )}
            <Evenness tones={named} />
            <p className="text-sm text-muted">
              {anchor
                ? say`Made absolute by the meter on ${anchor.spoke}: pitches count ${figure(factor, 2)} times.`
                : say`Good for comparing; absolute only with care. Read one spoke of this side with a meter to set the rest.`}
              {named[0] &&
                say` ${named[0].spoke} sounds at ${figure(named[0].hz, 0)} Hz: ${shownForce((named[0].tension_n ?? 0) * factor, unit)} ${unit}.`}
            </p>
            <div className="flex justify-end gap-3">
              <Button onClick={onClose}>
                <Trans>Leave it</Trans>
              </Button>
              <Button weight="now" onClick={keep} disabled={named.length === 0}>
                <Trans>Keep {named.length} as readings</Trans>
              </Button>
            </div>
          </>
        )}
      </div>
    </Dialog>
  );
}

/** Each plucked spoke against its side's mean, by the square of its pitch. */
function Evenness({ tones }: { tones: readonly Schemas["Tone"][] }) {
  const most = Math.max(10, ...tones.map((t) => Math.abs(t.percent ?? 0)));
  const step = 580 / Math.max(1, tones.length);
  return (
    <Drawing
      box={[0, 0, 600, 150]}
      className="w-full"
      role="img"
      aria-label={say`How even the plucked side is, in percent off its mean`}
    >
      <path d="M10 66H590" className="stroke-ink" />
      {tones.map((t, i) => {
        const x = 12 + (i + 0.5) * step;
        const percent = t.percent ?? 0;
        const y = 66 - (percent / most) * 46;
        return (
          <g key={t.spoke}>
            <path
              d={`M${x} 66V${y}`}
              className={Math.abs(percent) > 20 ? "stroke-danger" : "stroke-ink"}
              strokeWidth={4}
            />
            <circle cx={x} cy={y} r={5} className={Math.abs(percent) > 20 ? "fill-danger" : "fill-ink"} />
            <text
              x={x}
              y={percent >= 0 ? y - 9 : y + 18}
              textAnchor="middle"
              className="fill-ink text-(length:--letter)"
            >
              {percent > 0 ? "+" : ""}
              {figure(percent, 0)}
            </text>
            <text x={x} y={144} textAnchor="middle" className="fill-muted text-(length:--letter)">
              {t.spoke}
            </text>
          </g>
        );
      })}
    </Drawing>
  );
}

import { word } from "@/ui/words";
import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useWrite, WriteState } from "@/write/useWrite";
import { touches } from "@/api/keys";
import { type PointerEvent, useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { TextField } from "@/ui/Field";

type Stroke = [number, number][];

/** Who brought the wheel: a name, and a pad for a pen, a finger or nothing at all. */
export function SignDialog({ job, onClose }: { job: Schemas["Job"]; onClose: () => void }) {
  const [name, setName] = useState(job.customer.name);
  const [strokes, setStrokes] = useState<Stroke[]>([]);
  const send = useWrite({
    touches: touches.job(job.id),
    send: (_: void, head) =>
      answer(
        client.POST("/api/v1/jobs/{job_id}/signatures", {
          params: { path: { job_id: job.id } },
          ...head,
          body: { purpose: "brought", name, strokes },
        }),
      ),
    onSaved: () => {
      onClose();
    },
  });
  const at = (event: PointerEvent<SVGSVGElement>): [number, number] => {
    const box = event.currentTarget.getBoundingClientRect();
    const share = (v: number) => Math.min(1, Math.max(0, v));
    return [share((event.clientX - box.left) / box.width), share((event.clientY - box.top) / box.height)];
  };
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={say`Who brings the wheel`}
      lead={say`Job ${job.number}: ${word(job.wheel.position)} wheel, ${job.bike.label}. “${job.complaint}”`}
    >
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          send.go();
        }}
      >
        <TextField label={say`Name`} value={name} onChange={setName} required />
        <svg
          viewBox="0 0 600 180"
          role="img"
          aria-label={say`Pad to sign on, ${strokes.length} strokes`}
          className="w-full touch-none rounded-sm border border-line-strong bg-plate"
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture(event.pointerId);
            setStrokes((s) => [...s, [at(event)]]);
          }}
          onPointerMove={(event) => {
            if (!event.currentTarget.hasPointerCapture(event.pointerId)) return;
            const point = at(event);
            setStrokes((s) => [...s.slice(0, -1), [...(s.at(-1) ?? []), point]]);
          }}
        >
          <path d="M30 140H570" className="stroke-line" strokeWidth={2} />
          {strokes.map((stroke, i) => (
            <path
              key={i}
              d={stroke.map(([x, y], j) => `${j ? "L" : "M"}${x * 600} ${y * 180}`).join("")}
              fill="none"
              className="stroke-ink"
              strokeWidth={3}
              strokeLinecap="round"
            />
          ))}
        </svg>
        <WriteState of={send} />
        <div className="flex justify-end gap-3">
          <Button onClick={() => setStrokes([])} disabled={strokes.length === 0}>
            <Trans>Wipe</Trans>
          </Button>
          <Button onClick={onClose}>
            <Trans>Leave it</Trans>
          </Button>
          <Button type="submit" weight="now" disabled={send.pending || !name.trim()}>
            <Trans>Keep it</Trans>
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useMay } from "@/app/useMay";
import { answer, client, type Schemas } from "@/api/client";
import { touches } from "@/api/keys";
import { ask } from "@/api/queries";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { TextField } from "@/ui/Field";
import { IfFailed } from "@/ui/NotYet";
import { word } from "@/ui/words";
import { WriteState, useWrite } from "@/write/useWrite";

/** How a job ends that is no repair; and taking one up again that has ended. */
export function Ending({ job }: { job: Schemas["Job"] }) {
  return job.handed_back_at ? <Reopen job={job} /> : <OtherEnds job={job} />;
}

const WHO: Record<Schemas["WayToEnd"]["who"], string> = {
  counter: "job_end",
  skilled: "sign_off",
  owner: "hand_back_unsafe",
};

function OtherEnds({ job }: { job: Schemas["Job"] }) {
  const found = useQuery(ask.ends(job.id));
  const may = useMay();
  const [open, setOpen] = useState(false);
  const proposed = found.data?.find((way) => way.proposed);
  if (found.isError) return <IfFailed of={found} />;
  if (!may("job_end") || !found.data) return null;
  return (
    <section aria-label={say`Other ends`} className="flex flex-col items-start gap-2">
      {proposed && (
        <p className="border-l-4 border-signal pl-2 text-sm">
          <Trans>
            Proposed end: <strong>{proposed.name}</strong>.
          </Trans>{" "}
          {proposed.barred}
        </p>
      )}
      <Button onClick={() => setOpen(true)}>
        <Trans>End without a repair</Trans>
      </Button>
      {open && <EndDialog job={job} ways={found.data} may={may} onClose={() => setOpen(false)} />}
    </section>
  );
}

interface EndDialogProps {
  job: Schemas["Job"];
  ways: readonly Schemas["WayToEnd"][];
  may: (operation: string) => boolean;
  onClose: () => void;
}

function EndDialog({ job, ways, may, onClose }: EndDialogProps) {
  const [end, setEnd] = useState(ways.find((way) => way.proposed && !way.barred)?.key ?? "");
  const [reason, setReason] = useState("");
  const chosen = ways.find((way) => way.key === end);
  const write = useWrite({
    touches: touches.job(job.id),
    send: (body: { end: Schemas["EndEnum"]; reason: string }, head) =>
      answer(
        client.POST("/api/v1/jobs/{job_id}/ends", {
          params: { path: { job_id: job.id } },
          ...head,
          body: { version: job.version, ...body },
        }),
      ),
    onSaved: onClose,
  });
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={say`End job ${job.number} without a repair`}
      lead={say`It leaves the rail; what was noted stays. A repaired wheel is signed off instead.`}
    >
      <form
        className="flex flex-col gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          if (chosen) write.go({ end: chosen.key, reason });
        }}
      >
        <fieldset className="flex flex-col gap-1">
          <legend className="sr-only">
            <Trans>How it ends</Trans>
          </legend>
          {ways.map((way) => {
            const shut = way.barred !== "" || !may(WHO[way.who]);
            return (
              <label
                key={way.key}
                className={`flex min-h-12 items-start gap-3 rounded-sm px-2 py-2 ${shut ? "text-muted" : "hover:bg-sunk"}`}
              >
                <input
                  type="radio"
                  name="end"
                  className="mt-1 size-5"
                  value={way.key}
                  checked={end === way.key}
                  disabled={shut}
                  onChange={() => setEnd(way.key)}
                />
                <span>
                  <strong>{way.name}</strong>
                  <span className="block text-sm">
                    {way.barred ||
                      (may(WHO[way.who])
                        ? way.words
                        : way.who === "owner"
                          ? say`For the owner.`
                          : say`For a mechanic or the owner.`)}
                  </span>
                </span>
              </label>
            );
          })}
        </fieldset>
        {chosen && (
          <TextField
            label={say`Why, in a few words`}
            help={say`Kept with the job, and told to the customer with: “${chosen.words}”`}
            value={reason}
            onChange={setReason}
            error={write.refused?.for("reason")}
            maxLength={1000}
          />
        )}
        <WriteState of={write} fields={["reason"]} />
        <div className="flex justify-end gap-3">
          <Button onClick={onClose}>
            <Trans>Keep it open</Trans>
          </Button>
          <Button
            weight={chosen?.not_to_ride ? "danger" : "now"}
            type="submit"
            disabled={!chosen || write.pending}
          >
            {chosen?.not_to_ride ? say`End it, not to be ridden` : say`End the job`}
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

function Reopen({ job }: { job: Schemas["Job"] }) {
  const may = useMay();
  const [open, setOpen] = useState(false);
  const [reason, setReason] = useState("");
  const last = [...job.events].reverse().find((e) => e.kind === "ended" || e.kind === "handed_back");
  const write = useWrite({
    touches: touches.job(job.id),
    send: (_: void, head) =>
      answer(
        client.POST("/api/v1/jobs/{job_id}/reopen", {
          params: { path: { job_id: job.id } },
          ...head,
          body: { version: job.version, reason },
        }),
      ),
    onSaved: () => setOpen(false),
  });
  return (
    <section aria-label={say`How it ended`} className="flex flex-col items-start gap-2">
      <p className="border-l-4 border-ink pl-3">
        <strong>
          <Trans>Ended: {word(job.ended_as)}</Trans>
        </strong>
        {last?.note && <span className="block text-sm">{last.note}</span>}
      </p>
      {may("job_reopen") && (
        <Button onClick={() => setOpen(true)}>
          <Trans>Take it up again</Trans>
        </Button>
      )}
      {open && (
        <Dialog
          open
          onOpenChange={setOpen}
          title={say`Take job ${job.number} up again`}
          lead={say`It hangs on the rail again where it ended. Sign-off and refit of before count no longer.`}
        >
          <form
            className="flex flex-col gap-4"
            onSubmit={(event) => {
              event.preventDefault();
              write.go();
            }}
          >
            <TextField
              label={say`Why, in a few words`}
              value={reason}
              onChange={setReason}
              error={write.refused?.for("reason")}
              autoFocus
              maxLength={1000}
            />
            <WriteState of={write} fields={["reason"]} />
            <div className="flex justify-end gap-3">
              <Button onClick={() => setOpen(false)}>
                <Trans>Leave it ended</Trans>
              </Button>
              <Button weight="now" type="submit" disabled={write.pending}>
                <Trans>Take it up</Trans>
              </Button>
            </div>
          </form>
        </Dialog>
      )}
    </section>
  );
}

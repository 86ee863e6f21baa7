import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { touches } from "@/api/keys";
import { ask } from "@/api/queries";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { TextField } from "@/ui/Field";
import { IfFailed } from "@/ui/NotYet";
import { spokenTime } from "@/ui/when";
import { word } from "@/ui/words";
import { useWrite, WriteState } from "@/write/useWrite";
import type { DeskCall } from "./DeskList";
import { PromiseDates } from "./PromiseDates";

interface CallDialogProps {
  task: DeskCall;
  onClose: () => void;
}

/** The call as Felloe drafts it: what to say, the new dates with their chance, and that it was said. */
export function CallDialog({ task, onClose }: CallDialogProps) {
  const { job, kind } = task;
  const full = useQuery(ask.job(job.id));
  const dates = kind === "call" || kind === "promise";
  const offers = useQuery({ ...ask.jobOffers(job.id, null), enabled: dates });
  const [note, setNote] = useState("");
  const told = useWrite({
    touches: touches.job(job.id),
    send: (about: typeof kind, head) =>
      answer(
        client.POST("/api/v1/jobs/{job_id}/told", {
          params: { path: { job_id: job.id } },
          ...head,
          body: { about, note },
        }),
      ),
    onSaved: onClose,
  });
  const phone = full.data?.customer.phone ?? "";
  return (
    <Dialog open onOpenChange={onClose} title={say`${job.customer}, job ${job.number}`} lead={task.why}>
      <div className="flex flex-col gap-4">
        {phone && (
          <a href={`tel:${phone.replaceAll(/[^+0-9]/g, "")}`} className="font-figure text-2xl underline">
            {phone}
          </a>
        )}
        <blockquote className="border-l-4 border-line-strong pl-3 text-lg">
          {wordsFor(kind, job, offers.data)}
        </blockquote>
        {dates && (
          <>
            <IfFailed of={offers} />
            {full.data && <PromiseDates job={full.data} onPromised={() => told.go(kind)} />}
          </>
        )}
        <TextField label={say`What was said`} value={note} onChange={setNote} maxLength={300} />
        <WriteState of={told} />
        <div className="flex justify-end gap-3">
          <Button onClick={onClose}>
            <Trans>Not now</Trans>
          </Button>
          <Button weight={dates ? "plain" : "now"} disabled={told.pending} onClick={() => told.go(kind)}>
            {kind === "call" ? say`Told; the promise stays` : say`Told`}
          </Button>
        </div>
      </div>
    </Dialog>
  );
}

function wordsFor(
  kind: Schemas["DeskTask"]["kind"],
  job: Schemas["RailJob"],
  offers: Schemas["Offers"] | undefined,
): string {
  const wheel = say`the ${word(job.wheel.position)} wheel of your ${job.bike}`;
  const [first, second] = offers?.offers ?? [];
  const next = first
    ? second
      ? say`It will be ready ${spokenTime(first.at)}; to be quite sure, ${spokenTime(second.at)}. Which suits you?`
      : say`It will be ready ${spokenTime(first.at)}. Does that suit you?`
    : say`I will call again as soon as we know the day.`;
  if (kind === "call") {
    const at = job.promised_at ? spokenTime(job.promised_at) : "";
    return say`About ${wheel}: we said ${at}, and it may not be ready by then. I am sorry. ${next}`;
  }
  if (kind === "promise") return say`About ${wheel}. ${next}`;
  if (kind === "approve")
    return say`About ${wheel}: we have looked at it and would like your word before we go on. May I tell you what we found and what it costs?`;
  if (kind === "fetch") return say`Good news: ${wheel} is ready. You can fetch it whenever we are open.`;
  return say`${wheel} has been ready for a long time. Will you fetch it, or shall we talk about what becomes of it?`;
}

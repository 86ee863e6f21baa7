import { t as say } from "@lingui/core/macro";
import { useQuery } from "@tanstack/react-query";
import { ask } from "@/api/queries";
import { Dialog } from "@/ui/Dialog";
import { IfFailed } from "@/ui/NotYet";
import { dayAndTime } from "@/ui/when";
import { PromiseDates } from "./PromiseDates";

interface PromiseDialogProps {
  jobId: string;
  number: number;
  at?: string;
  onClose: () => void;
}

/** Give or move a promise, with its consequence shown first. */
export function PromiseDialog({ jobId, number, at, onClose }: PromiseDialogProps) {
  const job = useQuery(ask.job(jobId));
  const now = job.data?.promised_at;
  const lead = now ? say`Promised for ${dayAndTime(now)}` : say`No promise given yet`;
  return (
    <Dialog open onOpenChange={onClose} title={say`Promise of job ${number}`} lead={job.data ? lead : ""}>
      <IfFailed of={job} />
      {job.data && <PromiseDates job={job.data} {...(at ? { at } : {})} onPromised={onClose} />}
    </Dialog>
  );
}

import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "@/api/client";
import { keys } from "@/api/keys";
import { askRecord } from "@/api/recordQueries";
import { Button } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { Dialog } from "@/ui/Dialog";
import { IfFailed } from "@/ui/NotYet";
import { dayAndTime } from "@/ui/when";
import { type Head, useWrite, WriteState } from "@/write/useWrite";
import { Seen } from "./TakeBundle";

/** A customer's record to another shop of the same person: looked at first, then all of it. Here it stays. */
export function SendToBranch({ customerId }: { customerId: string }) {
  const sent = useQuery(askRecord.customerSent(customerId));
  const [open, setOpen] = useState(false);
  return (
    <section aria-label={say`Other shops`} className="flex flex-col gap-2">
      <h2>
        <Trans>Other shops</Trans>
      </h2>
      {sent.data?.map((one) => (
        <p key={one.at}>
          <Trans>
            Went to <strong data-typed>{one.shop}</strong>, {dayAndTime(one.at)}, {one.by}
          </Trans>
        </p>
      ))}
      <Button className="w-fit" onClick={() => setOpen(true)}>
        <Trans>Send to another shop …</Trans>
      </Button>
      {open && <SendDialog customerId={customerId} onClose={() => setOpen(false)} />}
    </section>
  );
}

interface SendDialogProps {
  customerId: string;
  onClose: () => void;
}

function SendDialog({ customerId, onClose }: SendDialogProps) {
  const account = useQuery(askRecord.account());
  const branches = account.data?.branches ?? [];
  const [chosen, setBranch] = useState("");
  const branch = chosen || (branches[0]?.id ?? "");
  const send = (keep: boolean, to: string, head: Head) =>
    answer(
      client.POST("/api/v1/customers/{customer_id}/sent", {
        params: { path: { customer_id: customerId } },
        ...head,
        body: { branch: to, keep },
      }),
    );
  const look = useWrite({ send: (to: string, head) => send(false, to, head) });
  const go = useWrite({
    touches: [keys.customerSent(customerId)],
    send: (to: string, head) => send(true, to, head),
    onSaved: onClose,
  });
  const seen = look.saved && look.asked === branch ? look.data : undefined;
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={say`Send to another shop`}
      lead={say`Customer, bikes, wheels and their history go there as they are now. Here they stay as history.`}
    >
      <div className="flex flex-col gap-3">
        <Choice
          label={say`Where to`}
          value={branch}
          onChange={setBranch}
          options={branches.map((one) => ({ value: one.id, text: one.shop }))}
        />
        <IfFailed of={account} />
        {seen && <Seen of={seen} />}
        <WriteState of={look} />
        <WriteState of={go} />
        <div className="flex justify-end gap-3">
          <Button onClick={onClose}>
            <Trans>Leave it</Trans>
          </Button>
          {seen ? (
            <Button weight="now" disabled={go.pending} onClick={() => go.go(branch)}>
              <Trans>Send it</Trans>
            </Button>
          ) : (
            <Button weight="now" disabled={!branch || look.pending} onClick={() => look.go(branch)}>
              <Trans>Look what would go</Trans>
            </Button>
          )}
        </div>
      </div>
    </Dialog>
  );
}

import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { keys, touches } from "@/api/keys";
import { ask } from "@/api/queries";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { PickField, TextField } from "@/ui/Field";
import { fromLocalInput, toLocalInput } from "@/ui/when";
import { useWrite, WriteState } from "@/write/useWrite";
import { HookField } from "./HookField";

interface PutDownDialogProps {
  job: Schemas["Job"];
  work: Schemas["Work"];
  onClose: () => void;
}

/** Put down or hand over: why, where it hangs, what the next one should know. All of it may stay empty: Enter is enough. */
export function PutDownDialog({ job, work, onClose }: PutDownDialogProps) {
  const staff = useQuery(ask.staff());
  const [note, setNote] = useState("");
  const [waiting, setWaiting] = useState("");
  const [expected, setExpected] = useState("");
  const [hook, setHook] = useState(job.hook?.id ?? "");
  const [to, setTo] = useState("");
  const [stopped, setStopped] = useState(work.forgotten ? toLocalInput(work.believed_until) : "");
  const put = useWrite({
    touches: touches.job(job.id),
    fills: () => keys.ofJob(job.id, "work"),
    send: (body: Schemas["PutDownRequest"], head) =>
      answer(
        client.POST("/api/v1/jobs/{job_id}/put-down", {
          params: { path: { job_id: job.id } },
          ...head,
          body,
        }),
      ),
    onSaved: onClose,
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    put.go({
      note,
      hook: hook || null,
      to: to || null,
      ...(waiting ? { waiting_on: waiting as Schemas["WaitingOnEnum"] } : {}),
      ...(waiting === "parts" && expected ? { expected_on: expected } : {}),
      ...(stopped ? { stopped_at: fromLocalInput(stopped) } : {}),
    });
  };
  const mechanics = (staff.data ?? []).filter(
    (p) => (p.role === "mechanic" || p.role === "apprentice") && p.id !== work.in_hand?.person_id,
  );
  return (
    <Dialog open onOpenChange={onClose} title={say`Put down job ${job.number}`}>
      <form onSubmit={submit} className="grid grid-cols-2 gap-4 max-sm:grid-cols-1">
        <TextField
          label={say`Note to the next one`}
          value={note}
          onChange={setNote}
          maxLength={300}
          autoFocus
          className="col-span-full"
        />
        <PickField
          label={say`Why`}
          value={waiting}
          onChange={setWaiting}
          options={[
            { value: "", text: say`to go on later` },
            { value: "customer", text: say`waits for the customer` },
            { value: "parts", text: say`waits for parts` },
            { value: "owner", text: say`waits for the owner` },
          ]}
        />
        {waiting === "parts" ? (
          <TextField
            label={say`Parts are to come on`}
            type="date"
            value={expected}
            onChange={setExpected}
            error={put.refused?.for("expected_on")}
          />
        ) : (
          <PickField
            label={say`Hand over to`}
            value={to}
            onChange={setTo}
            options={[
              { value: "", text: say`nobody` },
              ...mechanics.map((p) => ({ value: p.id, text: p.name })),
            ]}
          />
        )}
        <HookField value={hook} onChange={setHook} />
        {work.forgotten && (
          <TextField
            label={say`Stopped in truth at`}
            type="datetime-local"
            value={stopped}
            onChange={setStopped}
            error={put.refused?.for("stopped_at")}
            help={say`The clock was forgotten; this is when the last thing was noted.`}
          />
        )}
        <div className="col-span-full">
          <WriteState of={put} fields={["stopped_at", "expected_on"]} />
        </div>
        <div className="col-span-full flex justify-end gap-3">
          <Button onClick={onClose}>
            <Trans>Go on working</Trans>
          </Button>
          <Button weight="now" type="submit" disabled={put.pending}>
            {to ? say`Hand over` : say`Put down`}
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { keys, touches } from "@/api/keys";
import { askRecord } from "@/api/recordQueries";
import { useMay } from "@/app/useMay";
import { Button } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { Dialog } from "@/ui/Dialog";
import { TextField } from "@/ui/Field";
import { IfFailed } from "@/ui/NotYet";
import { dayAndTime } from "@/ui/when";
import { TakeBundle } from "./TakeBundle";
import { useWrite, WriteState } from "@/write/useWrite";

interface TheirDataProps {
  customer: { id: string; name: string };
}

/** What a customer allows, their own copy of all that is kept, and erasing them. */
export function TheirData({ customer }: TheirDataProps) {
  const may = useMay();
  const [erasing, setErasing] = useState(false);
  const [taking, setTaking] = useState(false);
  const consents = useQuery(askRecord.consents(customer.id));
  return (
    <section aria-label={say`Their data`} className="flex flex-col gap-2">
      <h2>
        <Trans>Their data</Trans>
      </h2>
      <IfFailed of={consents} />
      {consents.data?.map((state) => (
        <ConsentLine key={state.purpose} customer={customer} state={state} mayChange={may("consent_set")} />
      ))}
      <div className="flex flex-wrap items-center gap-4">
        {may("own_copy") && (
          <a className="tap underline" href={`/api/v1/customers/${customer.id}/copy`} download>
            <Trans>All that is kept of them, as a file</Trans>
          </a>
        )}
        {may("bundle_customer") && (
          <a className="tap underline" href={`/api/v1/customers/${customer.id}/bundle`} download>
            <Trans>As a bundle for another shop</Trans>
          </a>
        )}
        {may("bundle_in") && (
          <Button weight="quiet" onClick={() => setTaking(true)}>
            <Trans>A wheel from another shop …</Trans>
          </Button>
        )}
        {may("erase") && (
          <Button weight="quiet" onClick={() => setErasing(true)}>
            <Trans>Erase this customer …</Trans>
          </Button>
        )}
      </div>
      {taking && <TakeBundle customerId={customer.id} onClose={() => setTaking(false)} />}
      {erasing && <EraseDialog customer={customer} onClose={() => setErasing(false)} />}
    </section>
  );
}

interface ConsentLineProps {
  customer: TheirDataProps["customer"];
  state: Schemas["ConsentState"];
  mayChange: boolean;
}

function ConsentLine({ customer, state, mayChange }: ConsentLineProps) {
  const save = useWrite({
    touches: [keys.consents(customer.id)],
    fills: () => keys.consents(customer.id),
    send: (given: boolean, head) =>
      answer(
        client.PUT("/api/v1/customers/{customer_id}/consents", {
          ...head,
          params: { path: { customer_id: customer.id } },
          body: { consent_to: state.purpose as Schemas["ConsentToEnum"], given },
        }),
      ),
  });
  return (
    <div className="flex flex-wrap items-center gap-x-4 border-t border-line py-1">
      <p className="min-w-48 flex-1">
        {state.what}
        <span className="block text-sm text-muted">
          {state.given === null ? (
            <Trans>not asked, so no</Trans>
          ) : (
            <Trans>
              {state.given ? say`yes` : say`no`}, {dayAndTime(state.at ?? "")}, {state.by}
            </Trans>
          )}
        </span>
      </p>
      {mayChange && (
        <Choice<"yes" | "no" | "">
          label={state.what}
          value={state.given === null ? "" : state.given ? "yes" : "no"}
          onChange={(word) => save.go(word === "yes")}
          options={[
            { value: "yes", text: say`Yes` },
            { value: "no", text: say`No` },
          ]}
        />
      )}
      <WriteState of={save} />
    </div>
  );
}

function EraseDialog({ customer, onClose }: TheirDataProps & { onClose: () => void }) {
  const ahead = useQuery(askRecord.erasure(customer.id));
  const [name, setName] = useState("");
  const erase = useWrite({
    touches: [...touches.customer(), ["customers"], ["find"]],
    fills: () => keys.erasure(customer.id),
    send: (typed: string, head) =>
      answer(
        client.POST("/api/v1/customers/{customer_id}/erasure", {
          ...head,
          params: { path: { customer_id: customer.id } },
          body: { name: typed },
        }),
      ),
    onSaved: onClose,
  });
  const found = ahead.data;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    erase.go(name);
  };
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={say`Erase ${customer.name}`}
      lead={say`For good. Backups made before keep them until they are let go of.`}
    >
      <form onSubmit={submit} className="flex flex-col gap-3">
        <IfFailed of={ahead} />
        {found && (
          <p>
            <Trans>
              Name, telephone, e-mail and notes go, and the name wherever it stands in {found.jobs} jobs;{" "}
              {found.photos} photos, {found.signatures} signatures and the texts of {found.letters} letters go
              too. What was measured and done on the wheels stays.
            </Trans>
          </p>
        )}
        {found?.barred ? (
          <p role="alert" className="font-bold">
            {found.barred}
          </p>
        ) : (
          <>
            <TextField
              label={say`Type their name as it stands here`}
              value={name}
              onChange={setName}
              error={erase.refused?.for("name")}
            />
            <WriteState of={erase} fields={["name"]} />
          </>
        )}
        <div className="flex justify-end gap-3">
          <Button onClick={onClose}>
            <Trans>Keep them</Trans>
          </Button>
          {found && !found.barred && (
            <Button type="submit" disabled={erase.pending || !name.trim()}>
              <Trans>Erase for good</Trans>
            </Button>
          )}
        </div>
      </form>
    </Dialog>
  );
}

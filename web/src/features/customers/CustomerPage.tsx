import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { answer, client, type Schemas } from "@/api/client";
import { keys, touches } from "@/api/keys";
import { ask } from "@/api/queries";
import { TheirData } from "./TheirData";
import { Trail } from "@/features/records/Trail";
import { useMay } from "@/app/useMay";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { PickField, TextField } from "@/ui/Field";
import { NotYet } from "@/ui/NotYet";
import { useWrite, WriteState } from "@/write/useWrite";
import { LANGUAGES } from "./languages";
import { SendToBranch } from "./SendToBranch";

type Customer = Schemas["Customer"];

/** One customer: how to reach them, their bikes and jobs, and the second entry of the same person. */
export default function CustomerPage() {
  const { id: customerId = "" } = useParams();
  const customer = useQuery(ask.customer(customerId));
  const several = useQuery(ask.session()).data?.several_shops;
  const may = useMay();
  if (!customer.data) return <NotYet of={[customer]} what={say`the customer`} />;
  return (
    <main className="mx-auto grid w-full max-w-5xl gap-8 p-4 lg:grid-cols-2">
      <Reach key={customer.data.version} customer={customer.data} />
      <div className="flex min-w-0 flex-col gap-6">
        <Wheels customer={customer.data} />
        <TheirData customer={customer.data} />
        {several && may("customer_send") && <SendToBranch customerId={customer.data.id} />}
        <Trail of="customer" row={customer.data.id} />
      </div>
    </main>
  );
}

function Reach({ customer }: { customer: Customer }) {
  const may = useMay();
  const [draft, setDraft] = useState({
    name: customer.name,
    phone: customer.phone ?? "",
    email: customer.email ?? "",
    prefers: customer.prefers ?? "phone",
    language: customer.language ?? "en",
    note: customer.note ?? "",
  });
  const [merging, setMerging] = useState(false);
  const set = (change: Partial<typeof draft>) => setDraft((d) => ({ ...d, ...change }));
  const save = useWrite({
    touches: touches.customer(),
    fills: () => keys.customer(customer.id),
    send: (body: typeof draft, head) =>
      answer(
        client.PATCH("/api/v1/customers/{customer_id}", {
          params: { path: { customer_id: customer.id } },
          ...head,
          body: { ...body, version: customer.version },
        }),
      ),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    save.go(draft);
  };
  const editable = may("customer_change");
  const fields = ["name", "phone", "email", "note"] as const;
  const labels = { name: say`Name`, phone: say`Telephone`, email: say`E-mail`, note: say`Note for the shop` };
  return (
    <form onSubmit={submit} className="flex flex-col gap-3">
      <h1>{customer.name}</h1>
      {fields.map((name) => (
        <TextField
          key={name}
          label={labels[name]}
          value={draft[name]}
          disabled={!editable}
          onChange={(value) => set({ [name]: value })}
          error={save.refused?.for(name)}
        />
      ))}
      <div className="grid grid-cols-2 gap-4">
        <PickField
          label={say`To be told`}
          value={draft.prefers}
          onChange={(prefers) => set({ prefers: prefers as typeof draft.prefers })}
          options={[
            { value: "phone", text: say`by telephone` },
            { value: "text", text: say`by text message` },
            { value: "email", text: say`by e-mail` },
          ]}
        />
        <PickField
          label={say`Their language`}
          value={draft.language}
          onChange={(language) => set({ language })}
          options={LANGUAGES}
        />
      </div>
      <WriteState of={save} fields={[...fields]} />
      {editable && (
        <div className="flex flex-wrap items-center gap-3">
          <Button type="submit" weight="now" disabled={save.pending}>
            <Trans>Save</Trans>
          </Button>
          {save.saved && (
            <span className="text-muted">
              <Trans>Saved.</Trans>
            </span>
          )}
          <Button weight="quiet" className="ml-auto" onClick={() => setMerging(true)}>
            <Trans>Entered twice? Merge …</Trans>
          </Button>
        </div>
      )}
      {merging && <MergeDialog customer={customer} onClose={() => setMerging(false)} />}
    </form>
  );
}

/** The same person entered twice: the other entry keeps everything. */
function MergeDialog({ customer, onClose }: { customer: Customer; onClose: () => void }) {
  const navigate = useNavigate();
  const [text, setText] = useState(customer.name.split(" ").at(-1) ?? "");
  const found = useQuery(ask.customers(text));
  const others = (found.data ?? []).filter((c) => c.id !== customer.id);
  const merge = useWrite({
    touches: touches.customer(),
    send: (into: string, head) =>
      answer(
        client.POST("/api/v1/customers/{customer_id}/merge", {
          params: { path: { customer_id: customer.id } },
          ...head,
          body: { into, version: customer.version },
        }),
      ),
    onSaved: async (kept) => {
      onClose();
      await navigate(`/customers/${kept.id}`);
    },
  });
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={say`Merge ${customer.name} into another entry`}
      lead={say`All bikes and jobs go to the other one; what it lacks is filled from here. This cannot be taken back.`}
    >
      <TextField label={say`The other entry`} value={text} onChange={setText} autoFocus />
      <ul>
        {others.map((c) => (
          <li key={c.id} className="flex min-h-12 items-center gap-4 border-t border-line">
            <strong>{c.name}</strong>
            <span className="font-figure">{c.phone}</span>
            <span title={c.bikes.map((b) => b.label).join(", ")} className="truncate text-sm text-muted">
              {c.bikes.map((b) => b.label).join(", ")}
            </span>
            <Button className="ml-auto" disabled={merge.pending} onClick={() => merge.go(c.id)}>
              <Trans>This one stays</Trans>
            </Button>
          </li>
        ))}
      </ul>
      {found.isSuccess && others.length === 0 && (
        <p className="py-2">
          <Trans>No other entry fits.</Trans>
        </p>
      )}
      <WriteState of={merge} />
    </Dialog>
  );
}

function Wheels({ customer }: { customer: Customer }) {
  const jobs = useQuery(ask.find(customer.name));
  const theirs = (jobs.data ?? []).filter((hit) => hit.customer_id === customer.id);
  return (
    <section className="flex flex-col gap-4">
      <div>
        <h2>
          <Trans>Bikes</Trans>
        </h2>
        <ul>
          {customer.bikes.map((b) => (
            <li key={b.id} className="flex min-h-10 items-center gap-4 border-t border-line">
              {b.label}
              <span className="font-figure text-sm">{b.asset_number}</span>
              <Link className="tap ml-auto text-sm underline underline-offset-4" to={`/bikes/${b.id}/spares`}>
                <Trans>spare-spoke card</Trans>
              </Link>
            </li>
          ))}
        </ul>
      </div>
      <div>
        <h2>
          <Trans>Jobs</Trans>
        </h2>
        <ul>
          {theirs.map((hit) => (
            <li key={hit.job.id} className="border-t border-line">
              <Link to={`/jobs/${hit.job.id}`} className="flex min-h-12 items-center gap-4 hover:bg-sunk">
                <span className="font-figure text-lg font-bold">{hit.job.number}</span>
                <span title={hit.job.bike} className="min-w-0 flex-1 truncate">
                  {hit.job.bike}
                </span>
                <span className="text-sm">{hit.said}</span>
              </Link>
            </li>
          ))}
        </ul>
      </div>
    </section>
  );
}

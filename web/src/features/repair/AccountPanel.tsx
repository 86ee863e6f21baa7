import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { keys, touches } from "@/api/keys";
import { sentenceOf } from "@/api/problem";
import { askMoney } from "@/api/moneyQueries";
import { useMay } from "@/app/useMay";
import { Button } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { TextField } from "@/ui/Field";
import { money } from "@/ui/money";
import { Notice } from "@/ui/Notice";
import { typedNumber } from "@/ui/number";
import { NumberField } from "@/ui/NumberField";
import { IfFailed } from "@/ui/NotYet";
import { dayAndTime } from "@/ui/when";
import { useWrite } from "@/write/useWrite";

type How = Schemas["PaymentHowEnum"];

/** What was agreed, what came in, what stands open. */
export function AccountPanel({ jobId }: { jobId: string }) {
  const account = useQuery(askMoney.account(jobId));
  const may = useMay();
  if (account.isError) return <IfFailed of={account} />;
  const found = account.data;
  if (!found || (found.agreed_minor === null && found.payments.length === 0)) return null;
  return (
    <section aria-label={say`Paid and open`} className="rounded-md border border-line bg-plate p-3">
      <p className="flex items-baseline justify-between gap-3">
        <span>
          {found.open_minor > 0 ? say`Open` : found.open_minor < 0 ? say`Paid too much` : say`Paid`}
        </span>
        <strong className="font-figure text-xl">
          {money(found.open_minor ? Math.abs(found.open_minor) : found.agreed_minor, found.currency)}
        </strong>
      </p>
      {found.payments.map((p) => (
        <p key={p.id} className="flex justify-between gap-3 text-sm text-muted">
          <span>
            {HOWS()[p.how as How]}, {dayAndTime(p.created_at)}, {p.by}
            {p.note && ` · ${p.note}`}
          </span>
          <span className="font-figure">{money(p.amount_minor, found.currency)}</span>
        </p>
      ))}
      {may("payment_add") && <Pay key={found.payments.length} jobId={jobId} account={found} />}
    </section>
  );
}

const HOWS = (): Record<How, string> => ({
  cash: say`cash`,
  card: say`card`,
  transfer: say`transfer`,
  account: say`on account`,
});

function Pay({ jobId, account }: { jobId: string; account: Schemas["Account"] }) {
  const [amount, setAmount] = useState(account.open_minor > 0 ? (account.open_minor / 100).toFixed(2) : "");
  const [how, setHow] = useState<How>("card");
  const [note, setNote] = useState("");
  const value = typedNumber(amount);
  const send = useWrite({
    touches: [...touches.job(jobId), keys.ofJob(jobId, "account")],
    send: (amount_minor: number, head) =>
      answer(
        client.POST("/api/v1/jobs/{job_id}/account", {
          params: { path: { job_id: jobId } },
          ...head,
          body: { amount_minor, how, note },
        }),
      ),
    fills: () => keys.ofJob(jobId, "account"),
  });
  const problem = send.refused;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (value !== null) send.go(Math.round(value * 100));
  };
  return (
    <details>
      <summary className="min-h-11 cursor-pointer py-2 font-semibold">
        <Trans>Note a payment</Trans>
      </summary>
      <form onSubmit={submit} className="flex flex-col gap-3">
        <NumberField
          label={say`Amount`}
          value={amount}
          onChange={setAmount}
          error={problem?.for("amount_minor")}
          help={say`With − before it: given back`}
        />
        <Choice<How>
          label={say`How`}
          value={how}
          onChange={setHow}
          options={Object.entries(HOWS()).map(([key, text]) => ({ value: key as How, text }))}
        />
        <TextField
          label={say`Note`}
          value={note}
          onChange={setNote}
          error={problem?.for("note")}
          maxLength={200}
        />
        {problem && !problem.errors.length && <Notice kind="refusal">{sentenceOf(problem)}</Notice>}
        <Button type="submit" weight="now" disabled={send.pending || !value}>
          <Trans>Note it</Trans>
        </Button>
      </form>
    </details>
  );
}

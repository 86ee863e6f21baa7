import { plural, t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { typedNumber } from "@/ui/number";
import { NumberField } from "@/ui/NumberField";
import { NotYet } from "@/ui/NotYet";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "@/api/client";
import { sentenceOf } from "@/api/problem";
import { ask } from "@/api/queries";
import { Button } from "@/ui/Button";
import { Notice } from "@/ui/Notice";
import { dayAndTime } from "@/ui/when";
import { useStock } from "./useStock";

/** What to order of whom, what is under way, and what came in. */
export function Orders() {
  const orders = useQuery(ask.orders());
  const writes = useStock();
  if (!orders.data) return <NotYet of={[orders]} what={say`the orders`} />;
  const refused = [writes.send, writes.receive, writes.cancel].find((w) => w.error)?.error;
  const freed = writes.receive.data?.freed_jobs ?? [];
  const freedJobs = freed.map((n) => say`Job ${n}`).join(", ");
  return (
    <div className="grid gap-8 lg:grid-cols-2">
      <section aria-label={say`To order`} className="flex flex-col gap-4">
        <h2>
          <Trans>To order</Trans>
        </h2>
        {refused && <Notice kind="refusal">{sentenceOf(refused)}</Notice>}
        {orders.data.proposed.length === 0 && (
          <p className="text-muted">
            <Trans>Nothing is short. Claims and minima are covered.</Trans>
          </p>
        )}
        {orders.data.proposed.map((p) => (
          <Proposed key={p.supplier + p.lines.map((l) => l.count).join()} proposed={p} writes={writes} />
        ))}
      </section>
      <section aria-label={say`Under way`} className="flex flex-col gap-4">
        <h2>
          <Trans>Under way, and lately in</Trans>
        </h2>
        {freed.length > 0 && (
          <p className="border-l-8 border-signal bg-plate p-3 text-lg font-bold" role="status">
            {plural(freed.length, {
              one: `${freedJobs} has all parts now.`,
              other: `${freedJobs} have all parts now.`,
            })}
          </p>
        )}
        {orders.data.orders.length === 0 && (
          <p className="text-muted">
            <Trans>No order yet.</Trans>
          </p>
        )}
        {orders.data.orders.map((o) => (
          <Order key={o.id + o.state + o.lines.map((l) => l.arrived).join()} order={o} writes={writes} />
        ))}
      </section>
    </div>
  );
}

interface ProposedProps {
  proposed: Schemas["ProposedOrder"];
  writes: ReturnType<typeof useStock>;
}

function Proposed({ proposed, writes }: ProposedProps) {
  const [counts, setCounts] = useState<Record<string, string>>(() =>
    Object.fromEntries(proposed.lines.map((l) => [l.part, String(l.count)])),
  );
  const lines = proposed.lines
    .map((l) => ({ part: l.part, count: typedNumber(counts[l.part] ?? "") ?? NaN }))
    .filter((l) => Number.isInteger(l.count) && l.count > 0);
  return (
    <article aria-label={proposed.supplier || say`No supplier`} className="border-t-2 border-ink pt-2">
      <h3 className="text-lg font-bold">{proposed.supplier || say`No supplier named`}</h3>
      {proposed.lines.map((l) => (
        <div key={l.part} className="flex items-center gap-3 border-t border-line py-1">
          <NumberField
            label={say`How many: ${l.name}`}
            value={counts[l.part] ?? ""}
            whole
            onChange={(v) => setCounts((c) => ({ ...c, [l.part]: v }))}
            help={l.why}
            className="flex-1"
          />
        </div>
      ))}
      <Button
        weight="now"
        disabled={lines.length === 0 || writes.send.pending}
        onClick={() => writes.send.go({ supplier: proposed.supplier, lines })}
      >
        <Trans>It is ordered</Trans>
      </Button>
    </article>
  );
}

function Order({ order, writes }: { order: Schemas["Order"]; writes: ReturnType<typeof useStock> }) {
  const open = order.state === "sent";
  const [counts, setCounts] = useState<Record<string, string>>(() =>
    Object.fromEntries(order.lines.map((l) => [l.id, String(l.count - l.arrived)])),
  );
  return (
    <article
      aria-label={say`Order of ${order.supplier || say`no supplier`}`}
      className="border-t-2 border-line-strong pt-2"
    >
      <h3 className="font-bold">
        {order.supplier || say`No supplier named`}{" "}
        <span className="font-normal text-muted">
          {order.state === "sent" ? "ordered" : order.state} · {order.by}, {dayAndTime(order.created_at)}
        </span>
      </h3>
      {order.lines.map((l) => (
        <div key={l.id} className="flex items-start gap-3 border-t border-line py-1">
          <p className="flex-1 pt-2">
            <Trans>
              {l.name}: {l.arrived} of {l.count} in
            </Trans>
          </p>
          {open && l.arrived < l.count && (
            <NumberField
              label={say`Came in: ${l.name}`}
              value={counts[l.id] ?? ""}
              whole
              onChange={(v) => setCounts((c) => ({ ...c, [l.id]: v }))}
              className="w-56"
            />
          )}
        </div>
      ))}
      {open && (
        <div className="flex gap-3">
          <Button
            weight="now"
            disabled={writes.receive.pending}
            onClick={() =>
              writes.receive.go({
                id: order.id,
                lines: order.lines
                  .filter((l) => l.arrived < l.count)
                  .map((l) => ({ line: l.id, count: typedNumber(counts[l.id] ?? "") ?? 0 })),
              })
            }
          >
            <Trans>It came in</Trans>
          </Button>
          <Button weight="quiet" disabled={writes.cancel.pending} onClick={() => writes.cancel.go(order.id)}>
            <Trans>The rest will not come</Trans>
          </Button>
        </div>
      )}
    </article>
  );
}

import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { answer, client, type Schemas, writeKey } from "@/api/client";
import { touches } from "@/api/keys";
import { askRecord } from "@/api/recordQueries";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { type Head, useWrite, WriteState } from "@/write/useWrite";

type TakenIn = Schemas["TakenIn"];

interface TakeBundleProps {
  /** Whose wheel it is, for the bundle of a wheel alone. */
  customerId?: string;
  onClose: () => void;
}

/** A wheel or a customer from another shop: looked at first, then all of it or nothing. */
export function TakeBundle({ customerId, onClose }: TakeBundleProps) {
  const navigate = useNavigate();
  const [file, setFile] = useState<File | null>(null);
  const [seen, setSeen] = useState<TakenIn | null>(null);
  const [underway, setUnderway] = useState("");
  const send = (keep: boolean, head: Head) => {
    const key = writeKey().replace(/^(.{8})(.{4})(.{4})(.{4})/, "$1-$2-$3-$4-");
    setUnderway(key);
    return answer(
      client.POST("/api/v1/bundles", {
        params: { query: { keep, underway: key, ...(customerId ? { customer: customerId } : {}) } },
        headers: { ...head.headers, "Content-Type": "application/zip" },
        body: file as unknown as string,
        bodySerializer: (body: unknown) => body as BodyInit,
      }),
    );
  };
  const look = useWrite({ touches: [], send: (_: undefined, head) => send(false, head), onSaved: setSeen });
  const take = useWrite({
    touches: touches.newJob(),
    send: (_: undefined, head) => send(true, head),
    onSaved: async (found) => {
      onClose();
      if (found.customer_id) await navigate(`/customers/${found.customer_id}`);
    },
  });
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={say`Take in from another shop`}
      lead={say`A bundle of a wheel or of a customer, as Felloe gives it away.`}
    >
      <div className="flex flex-col gap-3">
        <label className="flex flex-col gap-1">
          <span className="font-bold">
            <Trans>The file</Trans>
          </span>
          <input
            type="file"
            accept=".zip,application/zip"
            className="min-h-12"
            onChange={(event) => {
              setFile(event.target.files?.[0] ?? null);
              setSeen(null);
            }}
          />
        </label>
        {seen && <Seen of={seen} />}
        {(look.pending || take.pending) && <HowFar underway={underway} />}
        <WriteState of={look} />
        <WriteState of={take} />
        <div className="flex justify-end gap-3">
          <Button onClick={onClose}>
            <Trans>Leave it</Trans>
          </Button>
          {seen ? (
            <Button weight="now" disabled={take.pending} onClick={() => take.go(undefined)}>
              <Trans>Take it in</Trans>
            </Button>
          ) : (
            <Button weight="now" disabled={!file || look.pending} onClick={() => look.go(undefined)}>
              <Trans>Look what is in it</Trans>
            </Button>
          )}
        </div>
      </div>
    </Dialog>
  );
}

/** How many wheels have been gone through, asked while the answer is not there. */
function HowFar({ underway }: { underway: string }) {
  const found = useQuery({ ...askRecord.underway(underway), enabled: underway !== "" });
  const { done = 0, total = 0 } = found.data ?? {};
  return (
    <div role="status" className="flex items-center gap-3">
      <progress
        className="h-3 flex-1 accent-signal"
        aria-label={say`Wheels gone through`}
        max={total || 1}
        value={done}
      />
      <span className="font-figure">{total > 0 ? say`${done} of ${total} wheels` : say`Being read …`}</span>
    </div>
  );
}

export function Seen({ of: found }: { of: TakenIn }) {
  const rows: [string, number][] = [
    [say`new customers`, found.new_customers],
    [say`bikes`, found.bikes],
    [say`wheels`, found.wheels],
    [say`jobs`, found.jobs],
    [say`readings`, found.readings],
    [say`photos`, found.photos],
  ];
  return (
    <section aria-label={say`What it would bring`} className="rounded-sm border border-line p-3">
      <p>
        <Trans>
          From {found.shop}, of {found.customer}:
        </Trans>
      </p>
      <dl className="grid grid-cols-[max-content_1fr] gap-x-4">
        {rows.map(([what, count]) => (
          <div key={what} className="contents">
            <dt className="text-muted">{what}</dt>
            <dd className="font-figure font-bold">{count}</dd>
          </div>
        ))}
      </dl>
      {found.known.map((line) => (
        <p key={line} className="text-sm">
          {line}
        </p>
      ))}
    </section>
  );
}

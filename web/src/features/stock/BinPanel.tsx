import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { typedNumber } from "@/ui/number";
import { NumberField } from "@/ui/NumberField";
import { IfFailed } from "@/ui/NotYet";
import { useInfiniteQuery, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "@/api/client";
import { Problem, sentenceOf } from "@/api/problem";
import { pagesOf } from "@/api/pages";
import { ask } from "@/api/queries";
import { Trail } from "@/features/records/Trail";
import { Button } from "@/ui/Button";
import { Earlier } from "@/ui/Earlier";
import { PickField } from "@/ui/Field";
import { Notice } from "@/ui/Notice";
import { dayAndTime } from "@/ui/when";
import { useStock } from "./useStock";

type Move = Schemas["LedgerMoveEnum"];
const MOVES: readonly { value: Move; text: string }[] = [
  { value: "take", text: say`take for a job` },
  { value: "reserve", text: say`reserve for a job` },
  { value: "return", text: say`put back` },
  { value: "release", text: say`let a claim go` },
  { value: "cut", text: say`take and cut` },
  { value: "count", text: say`count the bin` },
];

/** One bin: what is in it, for whom, what was done with it, and the next movement. */
export function BinPanel({ part }: { part: Schemas["StockPart"] }) {
  const rail = useQuery(ask.rail());
  const ledger = useInfiniteQuery(pagesOf.ledger(part.id));
  const entries = ledger.data?.pages.flatMap((page) => page.movements) ?? [];
  const writes = useStock();
  const [kind, setKind] = useState<Move>("take");
  const [count, setCount] = useState("");
  const [job, setJob] = useState("");
  const [to, setTo] = useState("");
  const problem = writes.move.error instanceof Problem ? writes.move.error : null;
  const jobs = rail.data?.hanging.map((h) => h.job) ?? [];
  const send = () =>
    writes.move.go(
      {
        part: part.id,
        kind,
        count: typedNumber(count) ?? NaN,
        job: kind === "count" ? null : job || null,
        ...(kind === "cut" && { to_mm: typedNumber(to) ?? NaN }),
      },
      () => setCount(""),
    );
  return (
    <aside aria-label={part.name} className="flex flex-col gap-3">
      <div>
        <h2 className="text-xl">{part.name}</h2>
        <p className="text-sm text-muted">
          <Trans>
            bin {part.bin || "–"} · {part.supplier || say`no supplier`} · minimum {part.minimum}
            {part.suggested_minimum > 0 && part.suggested_minimum !== part.minimum && (
              <>
                <Trans>
                  , its use asks for {part.suggested_minimum}{" "}
                  <button
                    type="button"
                    className="tap underline"
                    onClick={() =>
                      writes.change.go({
                        id: part.id,
                        version: part.version,
                        minimum: part.suggested_minimum,
                      })
                    }
                  >
                    take that
                  </button>
                </Trans>
              </>
            )}
          </Trans>
        </p>
      </div>
      <p className="flex items-baseline gap-6">
        <span>
          <Trans>
            <span className="font-figure text-arm font-bold">{part.on_hand}</span> there
          </Trans>
        </span>
        <span>
          <Trans>
            <span className={`font-figure text-3xl font-bold ${part.free < 0 ? "text-danger" : ""}`}>
              {part.free}
            </span>{" "}
            free
          </Trans>
        </span>
        {part.on_order > 0 && (
          <span>
            <Trans>
              <span className="font-figure text-3xl">{part.on_order}</span> on order
            </Trans>
          </span>
        )}
      </p>
      {part.claims.map((c) => (
        <p key={c.job} className="text-sm">
          <Trans>
            <Link className="tap underline" to={`/jobs/${c.job}`}>
              job {c.job_number}
            </Link>{" "}
            has reserved {c.count}
            {c.covered < c.count && (
              <strong className="text-danger">
                <Trans>, {c.count - c.covered} of them not here</Trans>
              </strong>
            )}
          </Trans>
        </p>
      ))}
      <form
        className="grid grid-cols-[1fr_96px] gap-x-3"
        onSubmit={(event) => {
          event.preventDefault();
          send();
        }}
      >
        <PickField
          label={say`Do`}
          value={kind}
          options={MOVES.filter((m) => m.value !== "cut" || part.kind === "spoke")}
          onChange={(v) => setKind(v as Move)}
        />
        <NumberField
          label={say`How many`}
          value={count}
          whole
          onChange={setCount}
          error={problem?.for("count")}
        />
        {kind !== "count" && (
          <PickField
            label={say`For`}
            value={job}
            options={[
              { value: "", text: say`which job` },
              ...jobs.map((j) => ({ value: j.id, text: `${j.number} ${j.customer}, ${j.bike}` })),
            ]}
            onChange={setJob}
            className="col-span-2"
          />
        )}
        {kind === "cut" && (
          <NumberField
            label={say`Cut to, mm`}
            min={0}
            unit="mm"
            value={to}
            onChange={setTo}
            error={problem?.for("to_mm")}
          />
        )}
        <Button
          type="submit"
          weight="now"
          className="col-span-2"
          disabled={writes.move.pending || !/^\d+$/.test(count)}
        >
          <Trans>Book it</Trans>
        </Button>
      </form>
      {problem && <Notice kind="refusal">{sentenceOf(problem)}</Notice>}
      <h3 className="font-bold">
        <Trans>The ledger</Trans>
      </h3>
      <IfFailed of={ledger} />
      <ol className="max-h-64 overflow-y-auto text-sm" tabIndex={0} aria-label={say`Ledger`}>
        {entries.map((m) => (
          <li key={m.id} className="flex gap-2 border-t border-line py-0.5">
            <span className="w-12 text-right font-figure font-bold">
              {m.delta > 0 ? `+${m.delta}` : m.delta ? `−${-m.delta}` : "0"}
            </span>
            <span className="flex-1">
              {m.word}
              {m.claim_delta !== 0 && (
                <>
                  <Trans> (claim {m.claim_delta > 0 ? `+${m.claim_delta}` : `−${-m.claim_delta}`})</Trans>
                </>
              )}
              {m.job_number && (
                <>
                  <Trans>, job {m.job_number}</Trans>
                </>
              )}
              {m.note && <>: {m.note}</>}
            </span>
            <span className="text-muted">
              {m.by.split(" ")[0]}, {dayAndTime(m.created_at)}
            </span>
          </li>
        ))}
        <Earlier of={ledger} />
      </ol>
      <Trail of="part" row={part.id} />
    </aside>
  );
}

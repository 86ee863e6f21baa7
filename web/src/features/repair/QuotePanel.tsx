import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { type FormEvent, useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { touches } from "@/api/keys";
import { sentenceOf } from "@/api/problem";
import { useMay } from "@/app/useMay";
import { Button } from "@/ui/Button";
import { TextField } from "@/ui/Field";
import { minutesText, money } from "@/ui/money";
import { Notice } from "@/ui/Notice";
import { typedNumber } from "@/ui/number";
import { NumberField } from "@/ui/NumberField";
import { word } from "@/ui/words";
import { useWrite } from "@/write/useWrite";

interface QuoteLinesProps {
  lines: readonly Schemas["QuoteLine"][];
  currency: string;
  net: number | null;
  tax: number | null;
  gross: number | null;
  taxBasisPoints: number;
}

/** A quote line by line, as it is read out and printed. */
export function QuoteLines({ lines, currency, net, tax, gross, taxBasisPoints }: QuoteLinesProps) {
  return (
    <table className="w-full text-left">
      <caption className="sr-only">
        <Trans>The quote, line by line</Trans>
      </caption>
      <tbody>
        {lines.map((line, i) => (
          <tr key={i} className="border-t border-line">
            <th scope="row" className="py-1 font-normal">
              {line.what}
              <span className="ml-2 text-sm text-muted">{countText(line, currency)}</span>
            </th>
            <td className="py-1 text-right font-figure whitespace-nowrap">
              {money(line.total_minor, currency)}
            </td>
          </tr>
        ))}
        {tax !== null && tax > 0 && (
          <tr className="border-t border-line text-sm text-muted">
            <th scope="row" className="py-1 font-normal">
              <Trans>
                Tax {taxBasisPoints / 100} % of {money(net, currency)}
              </Trans>
            </th>
            <td className="py-1 text-right font-figure">{money(tax, currency)}</td>
          </tr>
        )}
        <tr className="border-t-2 border-ink">
          <th scope="row" className="py-1">
            <Trans>Together, with all taxes</Trans>
          </th>
          <td className="py-1 text-right font-figure text-xl font-bold whitespace-nowrap">
            {money(gross, currency)}
          </td>
        </tr>
      </tbody>
    </table>
  );
}

function countText(line: Schemas["QuoteLine"], currency: string): string {
  if (line.kind === "labour")
    return say`${minutesText(line.count)} at ${money(line.unit_minor, currency)} an hour`;
  if (line.kind === "extra" || line.count === 1) return "";
  return `${line.count} × ${money(line.unit_minor, currency)}`;
}

interface QuotePanelProps {
  jobId: string;
  quote: Schemas["Quote"];
  tier: string;
  closed: boolean;
}

/** What it costs: lines, what the shop adds by hand, and what the same would cost at the other tiers. */
export function QuotePanel({ jobId, quote, tier, closed }: QuotePanelProps) {
  const may = useMay();
  return (
    <section
      aria-label={say`The quote`}
      className="flex flex-col gap-2 rounded-md border border-line bg-plate p-4"
    >
      {quote.lines.length === 0 ? (
        <p className="text-muted">
          <Trans>Take one of the options above: its lines stand here.</Trans>
        </p>
      ) : (
        <QuoteLines
          lines={quote.lines}
          currency={quote.currency}
          net={quote.net_minor}
          tax={quote.tax_minor}
          gross={quote.gross_minor}
          taxBasisPoints={quote.tax_basis_points}
        />
      )}
      {quote.missing.length > 0 && (
        <Notice kind="caution">
          <Trans>No price is set for: {quote.missing.join(", ")}. Without it nothing can be approved.</Trans>
        </Notice>
      )}
      {quote.refusal && <Notice kind="caution">{quote.refusal}</Notice>}
      {quote.lines.length > 0 && (
        <dl className="flex flex-wrap gap-x-6 text-sm" aria-label={say`The same at each tier`}>
          {quote.tiers.map((other) => (
            <div key={other.tier} className="flex gap-2">
              <dt className={other.tier === tier ? "font-bold" : "text-muted"}>{word(other.tier)}</dt>
              <dd className="font-figure">{money(other.gross_minor, quote.currency)}</dd>
            </div>
          ))}
        </dl>
      )}
      {!closed && may("quote_extras") && (
        <Extras key={quote.version} jobId={jobId} version={quote.version} extras={quote.extras} />
      )}
    </section>
  );
}

interface ExtrasProps {
  jobId: string;
  version: number;
  extras: readonly Schemas["Extra"][];
}

function Extras({ jobId, version, extras }: ExtrasProps) {
  const [name, setName] = useState("");
  const [amount, setAmount] = useState("");
  const send = useWrite({
    touches: touches.job(jobId),
    send: (lines: Schemas["Extra"][], head) =>
      answer(
        client.PUT("/api/v1/jobs/{job_id}/quote", {
          params: { path: { job_id: jobId } },
          ...head,
          body: { version, extras: lines },
        }),
      ),
  });
  const value = typedNumber(amount);
  const add = (event: FormEvent) => {
    event.preventDefault();
    if (value === null || name.trim() === "") return;
    send.go([...extras, { name, amount_minor: Math.round(value * 100) }]);
  };
  const problem = send.refused;
  return (
    <details open={extras.length > 0 || undefined}>
      <summary className="min-h-11 cursor-pointer py-2 font-semibold">
        <Trans>Add a line, or take something off</Trans>
      </summary>
      {extras.map((line, i) => (
        <p key={i} className="flex items-center gap-3">
          <span className="grow">{line.name}</span>
          <Button
            weight="quiet"
            disabled={send.pending}
            aria-label={say`take off: ${line.name}`}
            onClick={() => send.go(extras.filter((_, other) => other !== i))}
          >
            <Trans>take off</Trans>
          </Button>
        </p>
      ))}
      <form onSubmit={add} className="flex flex-wrap items-start gap-3">
        <TextField label={say`For what`} value={name} onChange={setName} className="w-56" maxLength={120} />
        <NumberField
          label={say`Amount`}
          value={amount}
          onChange={setAmount}
          help={say`With − before it: taken off`}
          className="w-36"
        />
        <Button type="submit" className="mt-6" disabled={send.pending || value === null || !name.trim()}>
          <Trans>Add</Trans>
        </Button>
      </form>
      {problem && <Notice kind="refusal">{sentenceOf(problem)}</Notice>}
    </details>
  );
}

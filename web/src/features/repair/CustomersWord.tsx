import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { touches } from "@/api/keys";
import { sentenceOf } from "@/api/problem";
import { Button } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { TextField } from "@/ui/Field";
import { money } from "@/ui/money";
import { Notice } from "@/ui/Notice";
import { dayAndTime } from "@/ui/when";
import { word } from "@/ui/words";
import { useWrite } from "@/write/useWrite";
import { QuoteLines } from "./QuotePanel";

type How = Schemas["AtTheDeskEnum"];

interface WordProps {
  jobId: string;
  found: Schemas["Options"];
  quote: Schemas["Quote"];
  chosen: readonly string[];
  customer: string;
  /** Whether the quote shown is that of what is chosen; a moment after a choice it is still the one before. */
  told: boolean;
  warning: string;
  onWarning: (text: string) => void;
}

/** The customer's word: yes to what is chosen, or no with the warning that was given. */
export function CustomersWord({
  jobId,
  found,
  quote,
  chosen,
  customer,
  told,
  warning,
  onWarning,
}: WordProps) {
  const [whom, setWhom] = useState(customer);
  const [how, setHow] = useState<How>("counter");
  const [digits, setDigits] = useState("");
  const send = useWrite({
    touches: touches.job(jobId),
    send: (outcome: "approved" | "refused", head) =>
      answer(
        client.POST("/api/v1/jobs/{job_id}/decisions", {
          params: { path: { job_id: jobId } },
          ...head,
          body: {
            outcome,
            chosen: [...chosen],
            by_whom: whom,
            how,
            warning,
            digits,
            ...(quote.gross_minor === null ? {} : { told_minor: quote.gross_minor }),
          },
        }),
      ),
    onSaved: async () => {},
  });
  const link = useWrite({
    touches: touches.job(jobId),
    send: (_: void, head) =>
      answer(
        client.POST("/api/v1/jobs/{job_id}/links", {
          params: { path: { job_id: jobId } },
          ...head,
          body: { chosen: [...chosen], warning },
        }),
      ),
  });
  const problem = send.refused;
  const picked = found.options.filter((o) => chosen.includes(o.key));
  const warn = found.unsafe.length > 0 || picked.some((o) => o.barred);
  const atField = ["warning", "by_whom", "digits"].some((field) => problem?.for(field));
  return (
    <section
      aria-label={say`The customer's word`}
      className="flex flex-col gap-3 rounded-md border border-line bg-plate p-4"
    >
      <p className="text-lg">
        <strong>{picked.map((o) => o.name).join(say` and `) || say`Nothing chosen`}</strong>
        {picked.length > 0 && (
          <>
            ,{" "}
            <span className="font-figure text-2xl font-bold">{money(quote.gross_minor, quote.currency)}</span>
          </>
        )}
      </p>
      <div className="flex flex-wrap items-start gap-3">
        <TextField
          label={say`Who says so`}
          value={whom}
          onChange={setWhom}
          error={problem?.for("by_whom")}
          className="w-64"
        />
        <Choice<How>
          label={say`How it was said`}
          value={how}
          onChange={setHow}
          options={[
            { value: "counter", text: say`at the counter` },
            { value: "phone", text: say`by phone` },
            { value: "writing", text: say`in writing` },
          ]}
          className="mt-6"
        />
      </div>
      {warn && (
        <TextField
          label={say`The warning that was given`}
          value={warning}
          onChange={onWarning}
          error={problem?.for("warning")}
          help={say`Needed where the wheel is unsafe and the customer says no, or wants what is barred.`}
        />
      )}
      {how === "phone" && picked.length > 0 && quote.words.length > 0 && (
        <div className="border-l-4 border-signal pl-3">
          <p className="text-sm font-bold">
            <Trans>Read this out</Trans>
          </p>
          {quote.words.map((line) => (
            <p key={line} className="text-lg">
              {line}
            </p>
          ))}
          <TextField
            label={say`The digits they repeat`}
            value={digits}
            onChange={setDigits}
            error={problem?.for("digits")}
            inputMode="numeric"
            autoComplete="off"
            maxLength={9}
            className="w-48 pt-2"
          />
        </div>
      )}
      {link.saved && (
        <Notice kind="news">
          <Trans>
            The link is made, and the wheel waits for the customer. On the job, “Tell the customer” sends it.
          </Trans>
        </Notice>
      )}
      {link.refused && <Notice kind="refusal">{sentenceOf(link.refused)}</Notice>}
      {problem && !atField && <Notice kind="refusal">{sentenceOf(problem)}</Notice>}
      <div className="flex gap-3">
        <Button
          weight="now"
          data-later
          disabled={send.pending || picked.length === 0 || quote.gross_minor === null || !told}
          onClick={() => send.go("approved")}
        >
          <Trans>Approved</Trans>
        </Button>
        <Button disabled={send.pending} onClick={() => send.go("refused")}>
          <Trans>Refused</Trans>
        </Button>
        <Button
          className="ml-auto"
          disabled={link.pending || picked.length === 0 || quote.gross_minor === null || !told}
          onClick={() => link.go()}
        >
          <Trans>Ask by link</Trans>
        </Button>
      </div>
    </section>
  );
}

/** What was said, by whom, and word by word what was agreed to. */
export function Said({
  decision: d,
  currency,
  voided,
}: {
  decision: Schemas["Decision"];
  currency: string;
  voided: string;
}) {
  const how: Record<Schemas["DecisionHowEnum"], string> = {
    counter: say`at the counter`,
    phone: say`by phone`,
    writing: say`in writing`,
    link: say`by the link that was sent`,
  };
  return (
    <div className="border-l-4 border-ink pl-3">
      <p>
        <strong>{d.outcome === "approved" ? say`✓ Approved` : say`✗ Refused`}</strong>
        {d.chosen_names.length > 0 && `: ${d.chosen_names.join(say` and `)}`},{" "}
        {money(d.price_minor, d.currency || currency)}, {word(d.tier)}
      </p>
      {voided && <Notice kind="caution">{voided}</Notice>}
      <p className="text-sm text-muted">
        <Trans>
          by {d.by_whom}, {how[d.how]}, {dayAndTime(d.created_at)}
        </Trans>
        {d.how !== "link" && say`; taken down by ${d.by}`}
      </p>
      {d.warning && (
        <p className="text-sm">
          <Trans>Warned: “{d.warning}”</Trans>
        </p>
      )}
      {d.lines.length > 0 && d.outcome === "approved" && (
        <details>
          <summary className="min-h-11 cursor-pointer py-3 text-sm underline underline-offset-4">
            <Trans>word by word</Trans>
          </summary>
          <QuoteLines
            lines={d.lines}
            currency={d.currency || currency}
            net={d.net_minor}
            tax={d.tax_minor}
            gross={d.price_minor}
            taxBasisPoints={d.tax_basis_points}
          />
          {d.words.map((line) => (
            <p key={line} className="text-sm">
              {line}
            </p>
          ))}
        </details>
      )}
    </div>
  );
}

import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { typedNumber } from "@/ui/number";
import { NumberField } from "@/ui/NumberField";
import { useMay } from "@/app/useMay";
import { keys, touches } from "@/api/keys";
import { useWrite } from "@/write/useWrite";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { sentenceOf } from "@/api/problem";
import { ask } from "@/api/queries";
import { Choice } from "@/ui/Choice";
import { Button } from "@/ui/Button";
import { TextField } from "@/ui/Field";
import { Notice } from "@/ui/Notice";
import { NotYet } from "@/ui/NotYet";
import { ShopRules } from "./ShopRules";

/** The price list that quotes are made of. */
export default function PricesPage() {
  const prices = useQuery(ask.prices());
  const may = useMay();
  if (!prices.data) return <NotYet of={[prices]} what={say`the prices`} />;
  return <Prices key={prices.data.version} prices={prices.data} owner={may("prices_set")} />;
}

function Prices({ prices, owner }: { prices: Schemas["Prices"]; owner: boolean }) {
  const [currency, setCurrency] = useState(prices.currency);
  const [text, setText] = useState<Record<string, string>>(() =>
    Object.fromEntries(Object.entries(prices.prices_minor).map(([k, v]) => [k, (v / 100).toFixed(2)])),
  );
  const [tax, setTax] = useState(String((prices.tax_basis_points ?? 0) / 100));
  const [included, setIncluded] = useState(prices.tax_included ?? true);
  const [bad, setBad] = useState("");
  const save = useWrite({
    touches: touches.prices(),
    send: (prices_minor: Record<string, number>, head) =>
      answer(
        client.PUT("/api/v1/prices", {
          ...head,
          body: {
            currency,
            version: prices.version,
            prices_minor,
            tax_basis_points: Math.round((typedNumber(tax) ?? 0) * 100),
            tax_included: included,
          },
        }),
      ),
    fills: () => keys.prices(),
  });
  const problem = save.refused;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const out: Record<string, number> = {};
    for (const [key, value] of Object.entries(text)) {
      if (value.trim() === "") continue;
      const number = typedNumber(value) ?? NaN;
      if (Number.isNaN(number)) {
        setBad(key);
        return;
      }
      out[key] = Math.round(number * 100);
    }
    setBad("");
    save.go(out);
  };
  return (
    <main className="mx-auto w-full max-w-3xl p-6">
      <h1>
        <Trans>Prices</Trans>
      </h1>
      <p className="mt-1 mb-4 text-muted">
        <Trans>
          What quotes are made of. What has no price is quoted as “no price set”.
          {!owner && say` Only the owner changes them.`}
        </Trans>
      </p>
      <form onSubmit={submit} className="grid grid-cols-1 gap-x-6 gap-y-2 md:grid-cols-2">
        {Object.entries(prices.names).map(([key, name]) => (
          <NumberField
            key={key}
            label={name}
            value={text[key] ?? ""}
            disabled={!owner}
            onChange={(v) => setText((t) => ({ ...t, [key]: v }))}
            error={bad === key ? say`Enter an amount` : problem?.for(key)}
          />
        ))}
        <TextField
          label={say`Currency`}
          value={currency}
          disabled={!owner}
          onChange={(v) => setCurrency(v.toUpperCase())}
          error={problem?.for("currency")}
          help={say`Three letters of ISO 4217`}
          maxLength={3}
        />
        <NumberField
          label={say`Tax`}
          unit="%"
          min={0}
          max={50}
          value={tax}
          disabled={!owner}
          onChange={setTax}
          error={problem?.for("tax_basis_points")}
          help={say`One rate for all lines; 0 where the shop adds none`}
        />
        <Choice<"in" | "on">
          label={say`The prices above`}
          value={included ? "in" : "on"}
          onChange={(v) => setIncluded(v === "in")}
          options={[
            { value: "in", text: say`hold the tax` },
            { value: "on", text: say`are without it` },
          ]}
        />
        {owner && (
          <div className="self-center">
            <Button type="submit" weight="now" disabled={save.pending}>
              <Trans>Save the prices</Trans>
            </Button>
            {save.saved && (
              <span className="ml-3 text-muted">
                <Trans>Saved.</Trans>
              </span>
            )}
          </div>
        )}
        {problem && !problem.errors.length && <Notice kind="refusal">{sentenceOf(problem)}</Notice>}
      </form>
      <ShopRules owner={owner} />
    </main>
  );
}

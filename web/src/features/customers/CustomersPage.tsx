import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { Link } from "react-router";
import { ask } from "@/api/queries";
import { useMay } from "@/app/useMay";
import { Button } from "@/ui/Button";
import { TakeBundle } from "./TakeBundle";
import { TextField } from "@/ui/Field";
import { NotYet } from "@/ui/NotYet";

/** Whose wheels: found by name, telephone or bike. */
export default function CustomersPage() {
  const [text, setText] = useState("");
  const [taking, setTaking] = useState(false);
  const may = useMay();
  const looked = useDeferredValue(text);
  const found = useQuery({ ...ask.customers(looked), placeholderData: (old) => old });
  if (!found.data) return <NotYet of={[found]} what={say`the customers`} />;
  return (
    <main className="mx-auto w-full max-w-4xl p-4">
      <div className="mb-3 flex flex-wrap items-center justify-between gap-4">
        <h1>
          <Trans>Customers</Trans>
        </h1>
        {may("bundle_in") && (
          <Button onClick={() => setTaking(true)}>
            <Trans>Take in from another shop …</Trans>
          </Button>
        )}
      </div>
      {taking && <TakeBundle onClose={() => setTaking(false)} />}
      <TextField label={say`Name, telephone or bike`} value={text} onChange={setText} autoFocus />
      <ul>
        {found.data.map((c) => (
          <li key={c.id} className="border-t border-line">
            <Link
              to={`/customers/${c.id}`}
              className="flex min-h-12 flex-wrap items-center gap-x-5 hover:bg-sunk"
            >
              <strong className="w-60">{c.name}</strong>
              <span className="w-36 font-figure">{c.phone}</span>
              <span className="text-muted">{c.bikes.map((b) => b.label).join(", ")}</span>
            </Link>
          </li>
        ))}
      </ul>
      {found.data.length === 0 && (
        <p className="py-4 text-lg">
          {looked
            ? say`Nobody fits “${looked}”.`
            : say`Nobody yet: the first wheel that is taken in brings one.`}
        </p>
      )}
    </main>
  );
}

import { money } from "@/ui/money";
import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useMay } from "@/app/useMay";
import { WriteState } from "@/write/useWrite";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "@/api/client";
import { ask } from "@/api/queries";
import { Button } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { NotYet } from "@/ui/NotYet";
import { BinPanel } from "./BinPanel";
import { NewPart } from "./NewPart";
import { Orders } from "./Orders";
import { PartsFile } from "./PartsFile";
import { SpokeRack } from "./SpokeRack";
import { useStock } from "./useStock";

type View = "bins" | "orders" | "file";

/** What is in the bins, what to order. */
export default function StockPage() {
  const stock = useQuery(ask.stock());
  const may = useMay();
  const writes = useStock();
  const [view, setView] = useState<View>("bins");
  const [picked, setPicked] = useState("");
  const [making, setMaking] = useState(false);
  if (!stock.data) return <NotYet of={[stock]} what={say`the stock`} />;
  const { parts, kinds } = stock.data;
  const current = parts.find((p) => p.id === picked) ?? parts.find((p) => p.free < p.minimum) ?? parts[0];
  const owner = may("stock_machine");
  return (
    <main className="flex flex-1 flex-col">
      <div className="scale-edge flex min-h-14 flex-wrap items-center gap-4 border-b border-line bg-plate px-4 py-1">
        <h1>
          <Trans>Stock</Trans>
        </h1>
        <Choice<View>
          label={say`What to look at`}
          value={view}
          onChange={setView}
          small
          options={[
            { value: "bins", text: say`in the bins` },
            { value: "orders", text: say`orders` },
            { value: "file", text: say`parts file` },
          ]}
        />
        <p className="text-sm">
          <Trans>
            In the bins:{" "}
            <strong className="font-figure">
              {money(stock.data.worth.value_minor, stock.data.worth.currency)}
            </strong>
          </Trans>
          {stock.data.worth.unpriced > 0 && (
            <span className="text-muted">
              {" "}
              <Trans>({stock.data.worth.unpriced} without a price)</Trans>
            </span>
          )}
        </p>
        <div className="ml-auto flex items-center gap-3">
          {owner ? (
            <Button onClick={() => writes.machine.go(!stock.data.cuts_spokes)}>
              {stock.data.cuts_spokes ? say`We cut and thread spokes ✓` : say`We do not cut spokes`}
            </Button>
          ) : (
            <span className="text-sm text-muted">
              {stock.data.cuts_spokes ? say`Spokes are cut and threaded here.` : say`No spokes are cut here.`}
            </span>
          )}
          <Button onClick={() => setMaking(true)}>
            <Trans>New part</Trans>
          </Button>
        </div>
      </div>
      <WriteState of={writes.machine} />
      <div className="flex-1 p-4">
        {view === "orders" && <Orders />}
        {view === "file" && <PartsFile />}
        {view === "bins" && parts.length === 0 && (
          <p className="max-w-xl text-lg">
            <Trans>
              No part is kept yet. Add the first with “New part”, or take in a whole list under “parts file”.
            </Trans>
          </p>
        )}
        {view === "bins" && current && (
          <div className="grid gap-8 lg:grid-cols-[1fr_380px]">
            <div className="flex min-w-0 flex-col gap-5">
              <section aria-label={say`Spokes`}>
                <h2>
                  <Trans>Spokes by length, mm</Trans>
                </h2>
                <p className="mb-1 text-sm text-muted">
                  <Trans>Filled: free. Hollow: reserved. Dashed: the minimum.</Trans>
                </p>
                <SpokeRack
                  parts={parts.filter((p) => p.kind === "spoke")}
                  selected={current.id}
                  onSelect={setPicked}
                />
              </section>
              <div className="grid gap-x-6 gap-y-3 md:grid-cols-3">
                {kinds
                  .filter((k) => k.key !== "spoke" && parts.some((p) => p.kind === k.key))
                  .map((k) => (
                    <Drawers
                      key={k.key}
                      name={k.name}
                      parts={parts.filter((p) => p.kind === k.key)}
                      selected={current.id}
                      onSelect={setPicked}
                    />
                  ))}
              </div>
            </div>
            <BinPanel key={current.id} part={current} />
          </div>
        )}
      </div>
      {making && (
        <NewPart
          kinds={kinds}
          onClose={() => setMaking(false)}
          onMade={(id) => {
            setPicked(id);
            setView("bins");
            setMaking(false);
          }}
        />
      )}
    </main>
  );
}

interface DrawersProps {
  name: string;
  parts: readonly Schemas["StockPart"][];
  selected: string;
  onSelect: (id: string) => void;
}

function Drawers({ name, parts, selected, onSelect }: DrawersProps) {
  return (
    <section aria-label={name}>
      <h2>{name}</h2>
      <ul>
        {parts.map((p) => (
          <li key={p.id}>
            <button
              type="button"
              aria-pressed={p.id === selected}
              onClick={() => onSelect(p.id)}
              className={`flex min-h-12 w-full items-center gap-2 border-t border-line px-1 text-left leading-tight ${p.id === selected ? "bg-signal text-signal-ink" : ""}`}
            >
              <span className="w-10 text-right font-figure text-lg font-bold">{p.on_hand}</span>
              <span className="flex-1">{p.name}</span>
              {p.free < p.minimum && (
                <strong className={p.id === selected ? "" : "text-danger"}>
                  <Trans>below {p.minimum}</Trans>
                </strong>
              )}
              <span className="text-sm">{p.bin}</span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { askFleet } from "@/api/fleetQueries";
import { useMay } from "@/app/useMay";
import { Button } from "@/ui/Button";
import { NotYet } from "@/ui/NotYet";
import { dayAndTime } from "@/ui/when";
import { NewLot } from "./NewLot";

/** Many like wheels of one owner: where the lots stand. */
export default function LotsPage() {
  const lots = useQuery(askFleet.lots());
  const may = useMay();
  const [making, setMaking] = useState(false);
  if (!lots.data) return <NotYet of={[lots]} what={say`the lots`} />;
  return (
    <main className="mx-auto w-full max-w-4xl p-4">
      <div className="mb-3 flex items-center gap-4">
        <h1 className="grow">
          <Trans>Lots</Trans>
        </h1>
        {may("lot_open") && (
          <Button weight="now" onClick={() => setMaking(true)}>
            <Trans>Take in a lot</Trans>
          </Button>
        )}
      </div>
      <ul>
        {lots.data.map((lot) => (
          <li key={lot.id} className="border-t border-line">
            <Link
              to={`/lots/${lot.id}`}
              className="flex min-h-12 flex-wrap items-center gap-x-5 hover:bg-sunk"
            >
              <strong className="w-60">{lot.name}</strong>
              <span className="w-52">{lot.customer}</span>
              <span className="font-figure">
                <Trans>
                  {lot.returned} of {lot.wheels} returned
                </Trans>
              </span>
              {lot.exceptions > 0 && (
                <span>
                  <Trans>{lot.exceptions} set apart</Trans>
                </span>
              )}
              <span className="ml-auto text-sm text-muted">{dayAndTime(lot.created_at)}</span>
            </Link>
          </li>
        ))}
      </ul>
      {lots.data.length === 0 && (
        <p className="py-4 text-lg">
          <Trans>No lot yet. A fleet’s wheels come in by their owner’s list of numbers.</Trans>
        </p>
      )}
      {making && <NewLot onClose={() => setMaking(false)} />}
    </main>
  );
}

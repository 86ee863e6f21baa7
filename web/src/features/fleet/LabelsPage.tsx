import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import { answer, client, type Schemas } from "@/api/client";
import { keys } from "@/api/keys";
import { Button } from "@/ui/Button";
import { NotYet } from "@/ui/NotYet";
import { QrCode } from "@/ui/QrCode";

/** A sheet of labels for the wheels of a lot, to be cut apart. */
export default function LabelsPage() {
  const { id: lotId = "" } = useParams();
  const labels = useQuery({
    queryKey: [...keys.lot(lotId), "labels"],
    queryFn: () =>
      answer(client.GET("/api/v1/lots/{lot_id}/labels", { params: { path: { lot_id: lotId } } })),
  });
  if (!labels.data) return <NotYet of={[labels]} what={say`the labels`} />;
  return (
    <main className="p-4 print:p-0">
      <div className="mb-4 flex items-center gap-4 print:hidden">
        <h1 className="grow">
          <Trans>Labels</Trans>
        </h1>
        <Link to={`/lots/${lotId}`} className="tap underline underline-offset-4">
          <Trans>back to the lot</Trans>
        </Link>
        <Button weight="now" onClick={() => window.print()}>
          <Trans>Print the labels</Trans>
        </Button>
      </div>
      <ul className="grid grid-cols-[repeat(auto-fill,minmax(170px,1fr))] print:grid-cols-4">
        {labels.data.map((label) => (
          <OneLabel key={label.number} label={label} />
        ))}
      </ul>
    </main>
  );
}

function OneLabel({ label }: { label: Schemas["Label"] }) {
  return (
    <li className="flex break-inside-avoid items-center gap-2 border border-dashed border-line-strong p-2">
      <QrCode
        rows={label.rows}
        label={say`Code that opens job ${label.number}`}
        className="size-20 shrink-0"
      />
      <span className="flex min-w-0 flex-col">
        <strong className="truncate font-figure text-lg">{label.label}</strong>
        <span className="font-figure">{label.number}</span>
      </span>
    </li>
  );
}

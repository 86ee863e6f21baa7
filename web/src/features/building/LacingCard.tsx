import { word } from "@/ui/words";
import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import { ask } from "@/api/queries";
import { Button } from "@/ui/Button";
import { NotYet } from "@/ui/NotYet";
import { LacingDrawing } from "@/wheelmap/LacingDrawing";

/** The whole map on one sheet, for a bench without a tablet. */
export default function LacingCard() {
  const { jobId = "" } = useParams();
  const job = useQuery(ask.job(jobId));
  const lacing = useQuery(ask.lacing(jobId));
  if (!job.data || !lacing.data) return <NotYet of={[job, lacing]} what={say`the card`} />;
  const map = lacing.data;
  return (
    <main className="mx-auto flex max-w-5xl flex-1 flex-col gap-3 p-6 print:p-0">
      <div className="flex gap-3 print:hidden">
        <Button weight="now" onClick={() => window.print()}>
          <Trans>Print the card</Trans>
        </Button>
        <Link className="tap self-center underline underline-offset-4" to={`/jobs/${jobId}/lacing`}>
          <Trans>back to the lacing</Trans>
        </Link>
      </div>
      <header className="flex items-start justify-between gap-6">
        <div>
          <h1>
            <Trans>
              Lacing card, job {job.data.number}: {word(job.data.wheel.position)} wheel, {job.data.bike.label}
            </Trans>
          </h1>
          <p>
            <Trans>
              Right {map.lengths_mm.R} mm, left {map.lengths_mm.L} mm. Rim holes count clockwise from the
              valve, hub holes clockwise from the first spoke&rsquo;s, all seen from the right.
            </Trans>
          </p>
        </div>
        <LacingDrawing
          derived={map.derived}
          places={map.places}
          placed={map.places.length}
          current=""
          className="w-40 shrink-0"
        />
      </header>
      {map.sets.map((set) => (
        <section key={set.number} aria-label={set.title} className="break-inside-avoid">
          {set.before && <p className="border-l-4 border-ink pl-2 font-bold">{set.before}</p>}
          <h2>
            {set.number}. {set.title}
            {set.every > 0 && say`: every ${set.every}th rim hole`}
          </h2>
          <ul className="grid grid-cols-2 gap-x-6 text-sm max-sm:grid-cols-1 print:grid-cols-2">
            {map.places
              .filter((p) => p.set_number === set.number)
              .map((p) => (
                <li key={p.spoke} className="flex gap-2 border-b border-line">
                  <span className="size-3.5 shrink-0 self-center border border-ink" aria-hidden="true" />
                  <strong className="w-9">{p.spoke}</strong>
                  <span className="w-44 font-figure whitespace-nowrap">
                    <Trans>
                      hub {p.flange_hole} → rim {p.rim_hole}
                    </Trans>
                  </span>
                  <span className="text-muted">
                    {p.crosses.map((c) => `${c.way === "over" ? "o" : "u"} ${c.spoke}`).join(" ")}
                  </span>
                </li>
              ))}
          </ul>
        </section>
      ))}
      <p className="text-xs">
        <Trans>o: over (outside), u: under. The hub maker&rsquo;s own pattern comes first.</Trans>
      </p>
    </main>
  );
}

import { word } from "@/ui/words";
import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { ask } from "@/api/queries";
import { Button } from "@/ui/Button";
import { NotYet } from "@/ui/NotYet";
import { figure } from "@/ui/number";
import { InLanguage } from "@/app/InLanguage";

/** What a touring customer should carry, on a card for the pocket. */
export default function SpareCardPage() {
  const { bikeId = "" } = useParams();
  const card = useQuery(ask.spareCard(bikeId));
  if (!card.data) return <NotYet of={[card]} what={say`the card`} />;
  return (
    <main className="flex flex-1 flex-col items-center gap-6 p-6 print:p-0">
      <div className="flex gap-3 print:hidden">
        <Button weight="now" onClick={() => window.print()}>
          <Trans>Print the card</Trans>
        </Button>
        <InLanguage />
      </div>
      <article
        aria-label={say`Spare-spoke card`}
        className="w-[560px] rounded-md border-2 border-tag-ink bg-tag p-6 text-tag-ink print:w-full"
      >
        <h1>
          <Trans>Spare spokes: {card.data.bike}</Trans>
        </h1>
        <p className="text-sm">{card.data.customer}</p>
        <ul className="my-4">
          {card.data.spokes.map((line) => (
            <li
              key={line.position + line.side}
              className="flex items-baseline gap-3 border-t border-tag-ink py-1"
            >
              <Trans>
                <span className="w-36">
                  {word(line.position)} {line.side === "R" ? say`● right` : say`○ left`}
                </span>
                {line.measured ? (
                  <>
                    <strong className="font-figure text-2xl">{figure(line.length_mm)}</strong> mm
                  </>
                ) : (
                  <strong className="font-figure text-2xl">{say`____ mm`}</strong>
                )}
                <span className="flex-1 text-sm">
                  {line.wire}
                  {!line.measured && say`, measure one; about ${Math.round(line.length_mm)} by kind`}
                </span>
                <strong>{line.carry}×</strong>
              </Trans>
            </li>
          ))}
        </ul>
        <h2>
          <Trans>Carry as well</Trans>
        </h2>
        <ul className="list-disc pl-5">
          {card.data.carry.map((c) => (
            <li key={c}>{c}</li>
          ))}
        </ul>
        <h2 className="mt-3">
          <Trans>Bear in mind</Trans>
        </h2>
        <ul className="list-disc pl-5">
          {card.data.mind.map((c) => (
            <li key={c}>{c}</li>
          ))}
        </ul>
      </article>
    </main>
  );
}

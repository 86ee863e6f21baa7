import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { sentenceOf } from "@/api/problem";
import { Button } from "@/ui/Button";
import { Notice } from "@/ui/Notice";
import { type SizingSide, useSizing } from "./useSizing";
import { figure } from "@/ui/number";

interface OffersProps {
  side: SizingSide;
  writes: ReturnType<typeof useSizing>;
  closed: boolean;
}

/** The bins that serve a side, the safest first: choose one, reserve, take, or take and cut. */
export function Offers({ side, writes, closed }: OffersProps) {
  const part = side.chosen?.part;
  const length = side.chosen?.length_mm;
  return (
    <div className="ml-3 flex min-w-0 flex-1 flex-col gap-1 text-sm">
      <h3 className="font-bold">
        <Trans>In the bins</Trans>
      </h3>
      {side.offers.length === 0 && (
        <p className="text-muted">
          <Trans>Nothing that fits. Order it, or cut longer ones.</Trans>
        </p>
      )}
      {side.offers.slice(0, part ? 2 : 3).map((o) => {
        const on = o.key === part?.id && o.fit.length_mm === length;
        return (
          <button
            key={o.key}
            type="button"
            disabled={closed}
            aria-pressed={on}
            title={o.cautions.join(" ")}
            onClick={() => writes.choose.go({ side: side.side, length_mm: o.fit.length_mm, part: o.key })}
            className={`min-h-11 min-w-0 border-l-4 py-1 pl-2 text-left ${on ? "border-signal bg-plate" : "border-line"}`}
          >
            <strong>
              {o.cut_to_mm ? say`Cut to ${figure(o.cut_to_mm)}: ` : ""}
              {o.name}
            </strong>
            : {o.count}
            {!o.enough && (
              <strong className="text-danger">
                <Trans> (too few)</Trans>
              </strong>
            )}
            {o.cautions.length > 0 && <span className="block text-muted">{o.cautions[0]}</span>}
          </button>
        );
      })}
      {part && !closed && <TakeSpokes side={side} part={part} writes={writes} />}
      {writes.move.error && writes.move.asked?.part === part?.id && (
        <Notice kind="refusal">{sentenceOf(writes.move.error)}</Notice>
      )}
    </div>
  );
}

interface TakeSpokesProps {
  side: SizingSide;
  part: NonNullable<NonNullable<SizingSide["chosen"]>["part"]>;
  writes: ReturnType<typeof useSizing>;
}

function TakeSpokes({ side, part, writes }: TakeSpokesProps) {
  const missing = side.places - part.taken;
  const unclaimed = missing - part.claimed;
  const cut = side.offers.find((o) => o.key === part.id && o.how === "cut");
  const take = () =>
    writes.move.go(
      cut
        ? { part: part.id, kind: "cut", count: missing, to_mm: side.chosen?.length_mm ?? null }
        : { part: part.id, kind: "take", count: missing },
    );
  return (
    <div className="mt-auto flex flex-wrap gap-2">
      {unclaimed > 0 && (
        <Button
          className="text-sm"
          disabled={writes.move.pending}
          onClick={() => writes.move.go({ part: part.id, kind: "reserve", count: unclaimed })}
        >
          <Trans>Reserve {unclaimed}</Trans>
        </Button>
      )}
      {missing > 0 && (
        <Button
          className="text-sm"
          weight={part.claimed ? "now" : "plain"}
          disabled={writes.move.pending}
          onClick={take}
        >
          <Trans>
            Take {missing} from {part.bin || say`the bin`}
            {cut && say`, and cut`}
          </Trans>
        </Button>
      )}
      {part.taken > 0 && (
        <p className="self-center">
          <Trans>{part.taken} taken</Trans>
        </p>
      )}
      {part.claimed > 0 && (
        <p className="self-center">
          <Trans>{part.claimed} reserved</Trans>
        </p>
      )}
    </div>
  );
}

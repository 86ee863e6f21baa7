import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useDeferredValue } from "react";
import type { Schemas } from "@/api/client";
import { ask } from "@/api/queries";
import { IfFailed } from "@/ui/NotYet";
import { dayAndTime, fromLocalInput } from "@/ui/when";
import { OfferKeys } from "./PromiseDates";

interface TakeInDatesProps {
  wheelId: string;
  kind: Schemas["WheelKind"] | undefined;
  wanted: string;
  chosen: string;
  onChoose: (iso: string) => void;
  error: string | undefined;
}

/** What can be promised for the wheel at the counter: dates with their chance; pressed twice, none is promised yet. */
export function TakeInDates({ wheelId, kind, wanted, chosen, onChoose, error }: TakeInDatesProps) {
  const wanted_at = fromLocalInput(useDeferredValue(wanted));
  const spec = kind?.specification;
  const known = Boolean(wheelId || spec);
  const offers = useQuery({
    ...ask.offers({
      wheel_id: wheelId || null,
      spokes: spec ? spec.right.count + spec.left.count : null,
      rear: kind?.position === "rear",
      wanted_at,
    }),
    enabled: known,
    placeholderData: keepPreviousData,
  });
  if (!known) return null;
  const found = offers.data?.offers ?? [];
  const worse = offers.data?.effects.filter((e) => e.below_line) ?? [];
  return (
    <section aria-label={say`Promise`} className="flex flex-col gap-1">
      <p className="text-sm">
        <strong>
          <Trans>Promise</Trans>
        </strong>{" "}
        <span className="text-muted">
          {offers.data ? (
            <Trans>bench work {offers.data.estimate}</Trans>
          ) : offers.isPending ? (
            say`the queue is played through`
          ) : (
            ""
          )}
        </span>
      </p>
      <IfFailed of={offers} />
      <OfferKeys
        offers={found}
        chosen={chosen || null}
        onChoose={(iso) => onChoose(iso === chosen ? "" : iso)}
      />
      {offers.isSuccess && found.length === 0 && (
        <p className="text-sm text-danger">
          <Trans>Nobody of the shop has the hours or the skill for it: no date can be promised.</Trans>
        </p>
      )}
      {wanted_at && worse.length > 0 && (
        <p className="text-sm">
          <Trans>Done for the wanted time, it puts in danger:</Trans>{" "}
          {worse.map((e) => `${e.number} ${e.customer} (${dayAndTime(e.promised_at)})`).join(", ")}
        </p>
      )}
      {error && <p className="text-sm font-bold text-danger">{error}</p>}
    </section>
  );
}

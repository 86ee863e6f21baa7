import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { keys } from "@/api/keys";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useRef } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { figure } from "@/ui/number";

export interface Offer {
  value: number;
  steady: boolean;
}

/** The last value of an instrument that streams; taken with Enter, or by itself when it stands still. */
export function useLive(instrument: Schemas["Instrument"] | undefined, spoke: string) {
  const live = useQuery({
    queryKey: keys.live(instrument?.id ?? "", spoke),
    queryFn: () =>
      answer(
        client.GET("/api/v1/instruments/{instrument_id}/live", {
          params: { path: { instrument_id: instrument?.id ?? "" }, query: { spoke } },
        }),
      ),
    enabled: Boolean(instrument?.address),
    refetchInterval: 500,
    retry: false,
    staleTime: 0,
    gcTime: 0,
  });
  const sample = live.data?.sample;
  const fits =
    sample &&
    sample.kind === "tension" &&
    sample.unit === "meter" &&
    (!sample.spoke || sample.spoke === spoke);
  const offer: Offer | undefined = fits
    ? { value: sample.value, steady: live.data?.steady ?? false }
    : undefined;
  return { data: live.data, offer };
}

interface LiveBarProps {
  name: string;
  live: Schemas["Live"] | undefined;
  offer: Offer | undefined;
  spoke: string;
  auto: boolean;
  /** A menu or a dialog is open: the next value waits, or it would move the bench under the person's hand. */
  held: boolean;
  onAuto: (auto: boolean) => void;
  onTake: (value: number) => void;
}

export function LiveBar({ name, live, offer, spoke, auto, held, onAuto, onTake }: LiveBarProps) {
  const taken = useRef("");
  useEffect(() => {
    if (!auto || held || !offer?.steady || taken.current === spoke) return;
    taken.current = spoke;
    onTake(offer.value);
  }, [auto, held, offer, spoke, onTake]);
  return (
    <p role="status" aria-label={say`Instrument`} className="flex items-center gap-3">
      <span aria-hidden="true">{live?.connected ? "●" : "○"}</span>
      <span className="font-bold">{name}</span>
      {offer ? (
        <>
          <span className="font-figure text-2xl font-bold">{figure(offer.value)}</span>
          <span className="text-muted">{offer.steady ? say`steady: Enter takes it` : "settling"}</span>
        </>
      ) : (
        <span className="text-muted">
          {live ? live.message || say`sends nothing for this spoke` : say`looking for it`}
        </span>
      )}
      <label className="flex items-center gap-2 text-sm">
        <Trans>
          <input
            type="checkbox"
            className="size-6 accent-ink"
            checked={auto}
            onChange={(event) => onAuto(event.target.checked)}
          />
          take by itself
        </Trans>
      </label>
    </p>
  );
}

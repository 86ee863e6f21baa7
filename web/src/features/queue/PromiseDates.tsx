import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { keepPreviousData, useQuery, useQueryClient } from "@tanstack/react-query";
import { useDeferredValue, useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { keys, touches } from "@/api/keys";
import { ask } from "@/api/queries";
import { Button } from "@/ui/Button";
import { TextField } from "@/ui/Field";
import { classes } from "@/ui/classes";
import { IfFailed } from "@/ui/NotYet";
import { Waiting } from "@/ui/Waiting";
import { dayAndTime, fromLocalInput, toLocalInput } from "@/ui/when";
import { useWrite, WriteState } from "@/write/useWrite";

interface PromiseDatesProps {
  job: Schemas["Job"];
  /** A time that was pointed at already: where the wheel was dropped. */
  at?: string;
  onPromised: () => void;
}

/** Dates with their chance, a time of one's own, what it does to the others, and the promise. */
export function PromiseDates({ job, at, onPromised }: PromiseDatesProps) {
  const queries = useQueryClient();
  const offers = useQuery(ask.jobOffers(job.id, job.wanted_at ?? null));
  // A promise that is past is nothing to begin with.
  const [text, setText] = useState(() => toLocalInput(at ?? stillAhead(job.promised_at)));
  const chosen = fromLocalInput(useDeferredValue(text));
  const look = useQuery({
    ...ask.promiseLook(job.id, chosen ?? ""),
    enabled: chosen !== null,
    placeholderData: keepPreviousData,
  });
  const give = useWrite({
    touches: touches.job(job.id),
    fills: () => keys.ofJob(job.id, "head"),
    send: (promised_at: string | null, head) =>
      answer(
        client.POST("/api/v1/jobs/{job_id}/promise", {
          params: { path: { job_id: job.id } },
          ...head,
          body: { version: job.version, promised_at },
        }),
      ),
    onSaved: onPromised,
    // Somebody was quicker: what stands now is shown, and pressing again means it.
    onRefused: () => void queries.invalidateQueries({ queryKey: keys.job(job.id) }),
  });
  const seen = look.data && !look.isPlaceholderData ? look.data : undefined;
  const unchanged =
    chosen !== null && job.promised_at !== null && Date.parse(chosen) === Date.parse(job.promised_at);
  return (
    <div className="flex flex-col gap-3">
      {offers.isPending && <Waiting what={say`the queue, played through`} />}
      <IfFailed of={offers} />
      {offers.data && (
        <p className="text-sm text-muted">
          <Trans>Bench work left: {offers.data.estimate}</Trans>
        </p>
      )}
      <OfferKeys
        offers={offers.data?.offers ?? []}
        chosen={chosen}
        onChoose={(iso) => setText(toLocalInput(iso))}
      />
      <TextField
        label={say`Or another time`}
        type="datetime-local"
        value={text}
        onChange={setText}
        error={give.refused?.for("promised_at")}
      />
      {chosen && look.isError && <IfFailed of={look} />}
      {seen && <WhatItDoes look={seen} line={offers.data?.line ?? ""} />}
      <WriteState of={give} fields={["promised_at"]} />
      <div className="flex flex-wrap justify-end gap-3">
        {job.promised_at && (
          <Button weight="quiet" disabled={give.pending} onClick={() => give.go(null)}>
            <Trans>Take the promise back</Trans>
          </Button>
        )}
        <Button
          weight="now"
          disabled={!seen || give.pending || unchanged}
          onClick={() => chosen && give.go(chosen)}
        >
          {seen && !seen.enough ? say`Promise it all the same` : say`Promise it`}
        </Button>
      </div>
    </div>
  );
}

function stillAhead(iso: string | null): string | null {
  return iso && Date.parse(iso) > Date.now() ? iso : null;
}

const MEANING: Record<Schemas["DateOffer"]["key"], string> = {
  wanted: say`wanted`,
  shop: say`safe enough`,
  sure: say`quite sure`,
};

interface OfferKeysProps {
  offers: readonly Schemas["DateOffer"][];
  chosen: string | null;
  onChoose: (iso: string) => void;
}

/** Two or three dates, each a key that says its chance. */
export function OfferKeys({ offers, chosen, onChoose }: OfferKeysProps) {
  return (
    <div role="group" aria-label={say`Dates with their chance`} className="flex flex-wrap gap-2">
      {offers.map((offer) => {
        const on = chosen !== null && Date.parse(chosen) === Date.parse(offer.at);
        return (
          <button
            key={offer.key}
            type="button"
            aria-pressed={on}
            onClick={() => onChoose(offer.at)}
            className={classes(
              "flex min-h-14 flex-col items-start rounded-sm border px-3 py-1 text-left",
              on ? "border-ink bg-ink text-face" : "border-line-strong bg-plate",
            )}
          >
            <strong>{dayAndTime(offer.at)}</strong>
            <span className="text-sm">
              {offer.odds}, {MEANING[offer.key]}
            </span>
          </button>
        );
      })}
    </div>
  );
}

/** The consequence, before anybody chooses. */
function WhatItDoes({ look, line }: { look: Schemas["PromiseLook"]; line: string }) {
  return (
    <div aria-live="polite" className="border-l-4 border-line-strong pl-3">
      <p>
        <strong className={look.enough ? "" : "text-danger"}>{look.odds}</strong>{" "}
        {look.enough
          ? say`to be ready by then`
          : say`to be ready by then; this shop promises from ${line} on`}
      </p>
      {look.effects.length === 0 ? (
        <p className="text-sm text-muted">
          <Trans>No other promise is moved by it.</Trans>
        </p>
      ) : (
        <ul className="text-sm">
          {look.effects.slice(0, 5).map((e) => (
            <li key={e.job}>
              <span className="font-figure font-bold">{e.number}</span> {e.customer},{" "}
              {dayAndTime(e.promised_at)}:{" "}
              <Trans>
                from {e.before} to <strong className={e.below_line ? "text-danger" : ""}>{e.after}</strong>
              </Trans>
            </li>
          ))}
          {look.effects.length > 5 && (
            <li>
              <Trans>and {look.effects.length - 5} more</Trans>
            </li>
          )}
        </ul>
      )}
    </div>
  );
}

import { word } from "@/ui/words";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "@/api/client";
import { Notice } from "@/ui/Notice";
import type { Kind } from "./useReadings";

interface NextLineProps {
  advice: Schemas["ReadingAdvice"] | undefined;
  /** Whether a place is read by now, on its way to the server included. */
  taken: (next: Schemas["NextReading"]) => boolean;
  onGo: (kind: Kind, spoke: string) => void;
}

/** Which reading would tell most, and what stands against the instruments. */
export function NextLine({ advice, taken, onGo }: NextLineProps) {
  if (!advice) return null;
  const open = advice.next.filter((one) => !taken(one));
  const next = open[0];
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1 text-sm">
      {next ? (
        <button
          type="button"
          className="min-h-12 underline underline-offset-4"
          onClick={() => onGo(next.kind, next.spoke)}
        >
          <Trans>
            Most telling next: {word(next.kind)} {next.spoke}{" "}
            <span className="text-muted">({Math.round(next.gain * 100)} % of what is open)</span>
          </Trans>
        </button>
      ) : advice.next.length > 0 ? (
        <span className="text-muted">
          <Trans>What would tell most is being worked out.</Trans>
        </span>
      ) : (
        <span className="text-muted">
          <Trans>Enough is known: more readings would not change what a plan reaches.</Trans>
        </span>
      )}
      {advice.slips.map((slip) => (
        <Notice key={slip.what} kind="caution">
          {slip.what}. {slip.mending}{" "}
          {slip.places.length <= 2 &&
            slip.places.map((place) => (
              <button
                key={place.spoke}
                type="button"
                className="mr-2 min-h-11 px-1 underline underline-offset-4"
                onClick={() => onGo(place.kind as Kind, place.spoke)}
              >
                <Trans>Go to {place.spoke}</Trans>
              </button>
            ))}
        </Notice>
      ))}
      {advice.doubts.length > 0 && <Notice kind="caution">{advice.doubts.join(" ")}</Notice>}
    </div>
  );
}

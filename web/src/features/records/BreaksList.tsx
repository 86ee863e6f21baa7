import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "@/api/client";
import { fullDay } from "@/ui/when";

/** Which spokes of the wheel broke, where and when. */
export function BreaksList({ of: breaks }: { of: Schemas["WheelHistory"]["breaks"] }) {
  return (
    <section aria-label={say`Spokes that broke`}>
      <h2>
        <Trans>Spokes that broke</Trans>
      </h2>
      {breaks.length === 0 ? (
        <p className="text-muted">{say`None on record.`}</p>
      ) : (
        <ul className="text-sm">
          {breaks.map((one, place) => (
            <li key={place} className="border-t border-line py-1">
              <strong>{one.spoke}</strong> {one.place}{" "}
              <span className="text-muted">
                <Trans>
                  {fullDay(one.noticed_on)}, job {one.number}
                </Trans>
              </span>
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

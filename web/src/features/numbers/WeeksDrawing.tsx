import { Drawing } from "@/ui/Drawing";
import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "@/api/client";
import { dayName } from "@/ui/when";

const WIDTH = 1000;
const LEFT = 70;
const KEPT = { top: 34, height: 116 };
const LEAD = { top: 190, height: 110 };

/** A day's noon, which is that day in every shop. */
// eslint-disable-next-line lingui/no-unlocalized-strings -- a time, not a word
const noon = (day: string) => new Date(`${day}T12:00:00Z`);

/** Week by week on one axis: the share of promises kept with its likely range, and under it how long wheels took. */
export function WeeksDrawing({ weeks }: { weeks: readonly Schemas["Week"][] }) {
  if (weeks.length === 0) return null;
  const step = (WIDTH - LEFT) / weeks.length;
  const x = (i: number) => LEFT + (i + 0.5) * step;
  const longest = Math.max(1, ...weeks.map((w) => w.lead_days_most ?? 0));
  const keptY = (share: number) => KEPT.top + KEPT.height * (1 - share);
  const leadY = (days: number) => LEAD.top + LEAD.height * (1 - days / longest);
  const everyOther = Math.ceil(weeks.length / 10);
  return (
    <figure>
      <figcaption className="text-lg font-bold">
        <Trans>Week by week</Trans>
      </figcaption>
      <div className="overflow-x-auto" tabIndex={0} role="region" aria-label={say`Week by week, drawn`}>
        <Drawing
          box={[0, 0, WIDTH, 330]}
          role="img"
          aria-label={say`Promises kept and days until ready, by week`}
          className="w-full min-w-[640px]"
        >
          {[0, 0.5, 1].map((share) => (
            <g key={share}>
              <line x1={LEFT} x2={WIDTH} y1={keptY(share)} y2={keptY(share)} className="stroke-line" />
              <text
                x={LEFT - 8}
                y={keptY(share) + 5}
                textAnchor="end"
                className="fill-muted text-(length:--letter)"
              >
                {Math.round(share * 100)} %
              </text>
            </g>
          ))}
          <text x={LEFT} y={14} className="fill-ink text-(length:--letter)">
            <Trans>promises kept; the bar is where the true share likely lies</Trans>
          </text>
          {weeks.map(
            (w, i) =>
              w.kept.share !== null && (
                <g key={w.monday}>
                  <line
                    x1={x(i)}
                    x2={x(i)}
                    y1={keptY(w.kept.low ?? 0)}
                    y2={keptY(w.kept.high ?? 1)}
                    className="stroke-band"
                    strokeWidth={Math.min(18, step * 0.4)}
                  />
                  <circle cx={x(i)} cy={keptY(w.kept.share)} r={6} className="fill-ink" />
                </g>
              ),
          )}
          {[0, longest].map((days) => (
            <g key={days}>
              <line x1={LEFT} x2={WIDTH} y1={leadY(days)} y2={leadY(days)} className="stroke-line" />
              <text
                x={LEFT - 8}
                y={leadY(days) + 5}
                textAnchor="end"
                className="fill-muted text-(length:--letter)"
              >
                {say`${Math.round(days)} d`}
              </text>
            </g>
          ))}
          <text x={LEFT} y={LEAD.top - 8} className="fill-ink text-(length:--letter)">
            <Trans>days from taking in to ready: mark in the middle, line up to nine of ten</Trans>
          </text>
          {weeks.map(
            (w, i) =>
              w.lead_days !== null && (
                <g key={w.monday}>
                  <line
                    x1={x(i)}
                    x2={x(i)}
                    y1={leadY(w.lead_days)}
                    y2={leadY(w.lead_days_most ?? w.lead_days)}
                    className="stroke-line-strong"
                    strokeWidth={3}
                  />
                  <rect x={x(i) - 7} y={leadY(w.lead_days) - 3} width={14} height={6} className="fill-ink" />
                  {i % everyOther === 0 && (
                    <text x={x(i)} y={322} textAnchor="middle" className="fill-muted text-(length:--letter)">
                      {dayName(noon(w.monday))}
                    </text>
                  )}
                </g>
              ),
          )}
        </Drawing>
      </div>
    </figure>
  );
}

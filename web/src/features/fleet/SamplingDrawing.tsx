import { Drawing } from "@/ui/Drawing";
import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "@/api/client";

const WIDTH = 480;
const HEIGHT = 200;
const EDGE = 34;

/** Bad wheels against measured ones, between the two lines that decide: below the lower the lot is good, above the upper bad. */
export function SamplingDrawing({ sampling }: { sampling: Schemas["Verdict"] }) {
  const { accept, reject, path } = sampling;
  const most = Math.max(24, path.length + 4);
  const shown = Math.min(most, accept.length - 1);
  const highest = Math.max(4, Math.ceil(reject[shown] ?? 4), ...path) + 1;
  const x = (n: number) => EDGE + (n / most) * (WIDTH - EDGE - 8);
  const y = (bad: number) => 8 + (1 - bad / highest) * (HEIGHT - EDGE - 8);
  const line = (values: readonly number[]) =>
    values
      .slice(0, shown + 1)
      .map((bad, n) => `${x(n)},${y(Math.max(0, Math.min(highest, bad)))}`)
      .join(" ");
  return (
    <figure>
      <Drawing
        box={[0, 0, WIDTH, HEIGHT]}
        className="w-full max-w-[480px]"
        role="img"
        aria-label={say`${sampling.bad} bad of ${sampling.measured} measured`}
      >
        <polygon
          points={`${x(0)},${y(highest)} ${line(reject)} ${x(shown)},${y(highest)}`}
          className="fill-danger-soft"
        />
        <polygon points={`${line(accept)} ${x(shown)},${y(0)} ${x(0)},${y(0)}`} className="fill-tube" />
        <polyline
          points={line(reject)}
          className="fill-none stroke-danger"
          strokeWidth={2}
          strokeDasharray="6 3"
        />
        <polyline points={line(accept)} className="fill-none stroke-ink" strokeWidth={2} />
        <polyline
          points={path.map((bad, n) => `${x(n)},${y(bad)}`).join(" ")}
          className="fill-none stroke-ink"
          strokeWidth={3}
        />
        {path.slice(1).map((bad, i) => (
          <circle key={i} cx={x(i + 1)} cy={y(bad)} r={4} className="fill-ink" />
        ))}
        <text x={WIDTH - 10} y={y(0) - 6} textAnchor="end" className="fill-ink text-(length:--letter)">
          <Trans>good lot</Trans>
        </text>
        <text x={EDGE + 8} y={22} className="fill-danger text-(length:--letter)">
          <Trans>bad lot</Trans>
        </text>
        <text x={WIDTH / 2} y={HEIGHT - 6} textAnchor="middle" className="fill-muted text-(length:--letter)">
          <Trans>wheels measured</Trans>
        </text>
        {[0, Math.floor(most / 2), most].map((n) => (
          <text
            key={n}
            x={x(n)}
            y={HEIGHT - 20}
            textAnchor="middle"
            className="fill-muted text-(length:--letter)"
          >
            {n}
          </text>
        ))}
        <text x={4} y={y(highest / 2)} className="fill-muted text-(length:--letter)">
          <Trans>bad</Trans>
        </text>
      </Drawing>
    </figure>
  );
}

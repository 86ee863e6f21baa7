import { Drawing } from "@/ui/Drawing";
import { word } from "@/ui/words";
import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "@/api/client";
import { figure } from "@/ui/number";

const W = 440;
const H = 250;
const LEFT = 44;
const BOTTOM = 34;

/** Straight against even: the least runout that any turns can give, at each spread of tension; the tier is the shaded corner. */
export function Curve({ curve, tier }: { curve: Schemas["Curve"]; tier: string }) {
  const most = Math.max(
    1,
    ...curve.points.map((p) => Math.max(p.lateral_tir_mm, p.radial_tir_mm)),
    curve.tier_lateral_mm * 1.5,
  );
  const top = Math.min(most, 6);
  const widest = Math.max(35, ...curve.points.map((p) => p.spread_percent));
  const x = (spread: number) => LEFT + (spread / widest) * (W - LEFT - 12);
  const y = (mm: number) => H - BOTTOM - (Math.min(mm, top) / top) * (H - BOTTOM - 14);
  const line = (pick: (p: Schemas["CurvePoint"]) => number) =>
    curve.points.map((p, i) => `${i ? "L" : "M"}${x(p.spread_percent)} ${y(pick(p))}`).join("");
  const step = [0.1, 0.2, 0.5, 1, 2].find((s) => top / s <= 6) ?? 2;
  const ticks = Array.from({ length: Math.floor(top / step) + 1 }, (_, i) => i * step);
  return (
    <figure className="flex flex-col gap-1">
      <figcaption className="text-lg font-bold">{curve.why}</figcaption>
      <Drawing
        box={[0, 0, W, H]}
        className="w-full"
        role="img"
        aria-label={say`Least runout in millimetres against spread of tension. ${curve.why}`}
      >
        <rect
          x={LEFT}
          y={y(curve.tier_lateral_mm)}
          width={x(curve.tier_spread_percent) - LEFT}
          height={H - BOTTOM - y(curve.tier_lateral_mm)}
          className="fill-tube stroke-line-strong"
        />
        {curve.tier_radial_mm !== curve.tier_lateral_mm && (
          <path
            d={`M${LEFT} ${y(curve.tier_radial_mm)}H${x(curve.tier_spread_percent)}`}
            className="stroke-ink"
            strokeDasharray="6 4"
          />
        )}
        <text x={LEFT + 6} y={H - BOTTOM - 6} className="fill-muted text-(length:--letter)">
          {word(tier)}
        </text>
        {ticks.map((t) => (
          <g key={t}>
            <path d={`M${LEFT - 4} ${y(t)}H${W - 12}`} className="stroke-line" />
            <text x={LEFT - 8} y={y(t) + 4} textAnchor="end" className="fill-muted text-(length:--letter)">
              {figure(t, step < 1 ? 1 : 0)}
            </text>
          </g>
        ))}
        {[0, 10, 20, 30].map((s) => (
          <text key={s} x={x(s)} y={H - 16} textAnchor="middle" className="fill-muted text-(length:--letter)">
            ±{s} %
          </text>
        ))}
        <path d={`M${LEFT} 10V${H - BOTTOM}H${W - 10}`} fill="none" className="stroke-ink" />
        <path
          d={line((p) => p.radial_tir_mm)}
          fill="none"
          className="stroke-ink"
          strokeWidth={2}
          strokeDasharray="6 4"
        />
        <path d={line((p) => p.lateral_tir_mm)} fill="none" className="stroke-ink" strokeWidth={3} />
        {curve.points.map((p) => (
          <circle
            key={p.spread_percent}
            cx={x(p.spread_percent)}
            cy={y(p.lateral_tir_mm)}
            r={4}
            className="fill-ink"
          />
        ))}
        <text x={W - 12} y={H - 2} textAnchor="end" className="fill-muted text-(length:--letter)">
          <Trans>tension, worst spoke of its side</Trans>
        </text>
      </Drawing>
      <p className="text-sm text-muted">
        <Trans>
          Full line: lateral, mm; broken: radial. Both must pass through the shaded corner
          {curve.tier_radial_mm !== curve.tier_lateral_mm &&
            say`, the radial one below its own broken edge`}. {Math.round(curve.chance * 100)} % of the wheels
          that fit the readings do.
        </Trans>
      </p>
      <p>
        <strong>
          <Trans>To the customer:</Trans>
        </strong>{" "}
        {curve.to_customer}
      </p>
    </figure>
  );
}

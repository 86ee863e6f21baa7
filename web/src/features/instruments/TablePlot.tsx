import { Drawing } from "@/ui/Drawing";
import { t as say } from "@lingui/core/macro";
import type { Schemas } from "@/api/client";
import { figure } from "@/ui/number";

const W = 560;
const H = 260;
const LEFT = 46;
const BOTTOM = 26;

interface TablePlotProps {
  curve: readonly Schemas["FitCurve"][];
  points: readonly Schemas["FitPoint"][];
  label: string;
}

/** Force against reading: the curve, its band, and the loads that were hung. */
export function TablePlot({ curve, points, label }: TablePlotProps) {
  const readings = [...curve.map((c) => c.reading), ...points.map((p) => p.reading)];
  const [low, high] = [Math.min(...readings), Math.max(...readings)];
  const top = Math.max(...curve.map((c) => c.force_n + c.band_n), ...points.map((p) => p.load_n), 100);
  const x = (r: number) => LEFT + ((r - low) / (high - low || 1)) * (W - LEFT - 10);
  const y = (f: number) => H - BOTTOM - (Math.max(0, f) / top) * (H - BOTTOM - 12);
  const line = (pick: (c: Schemas["FitCurve"]) => number, reverse = false) => {
    const rows = reverse ? [...curve].reverse() : curve;
    return rows.map((c) => `${x(c.reading)} ${y(pick(c))}`).join("L");
  };
  const step = top > 1600 ? 500 : top > 700 ? 250 : 100;
  const ticks = Array.from({ length: Math.floor(top / step) + 1 }, (_, i) => i * step);
  const units = Array.from({ length: 6 }, (_, i) => low + (i * (high - low)) / 5);
  return (
    <Drawing
      box={[0, 0, W, H]}
      className="w-full max-w-3xl"
      role="img"
      aria-label={say`Force against reading: ${label}`}
    >
      {ticks.map((t) => (
        <g key={t}>
          <path d={`M${LEFT} ${y(t)}H${W - 10}`} className="stroke-line" />
          <text x={LEFT - 6} y={y(t) + 4} textAnchor="end" className="fill-muted text-(length:--letter)">
            {t}
          </text>
        </g>
      ))}
      {units.map((u, i) => (
        <text
          key={u}
          x={x(u)}
          y={H - 8}
          // The last one stands at the frame: it would be cut off.
          textAnchor={i === units.length - 1 ? "end" : "middle"}
          className="fill-muted text-(length:--letter)"
        >
          {figure(u, 1)}
        </text>
      ))}
      <path
        d={`M${line((c) => c.force_n + c.band_n)}L${line((c) => c.force_n - c.band_n, true)}Z`}
        className="fill-band"
      />
      <path d={`M${line((c) => c.force_n)}`} fill="none" className="stroke-ink" strokeWidth={3} />
      {points.map((p, i) => (
        <g key={i}>
          <path
            d={`M${x(p.reading)} ${y(p.load_n)}V${y(p.load_n - p.residual_n)}`}
            className="stroke-danger"
            strokeWidth={2}
          />
          <circle
            cx={x(p.reading)}
            cy={y(p.load_n)}
            r={5}
            className="fill-signal stroke-ink"
            strokeWidth={2}
          />
        </g>
      ))}
      <text x={8} y={12} className="fill-muted text-(length:--letter)">
        N
      </text>
    </Drawing>
  );
}

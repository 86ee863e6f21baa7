import { t as say } from "@lingui/core/macro";
import type { Schemas } from "@/api/client";
import { Drawing } from "@/ui/Drawing";
import { classes } from "@/ui/classes";

interface LaceDrawingProps {
  derived: Schemas["Derived"];
  question: Schemas["LaceQuestion"];
  onHole?: ((hole: number) => void) | undefined;
}

/** Hub and rim from the right side: the spokes that are in, the holes by number, the one in hand at its hub hole. */
export function LaceDrawing({ derived, question, onHole }: LaceDrawingProps) {
  const rim = derived.rim_radius_mm;
  const point = (radius: number, angle: number): [number, number] => {
    const rad = (angle * Math.PI) / 180;
    return [radius * Math.sin(rad), -radius * Math.cos(rad)];
  };
  const edge = rim + 52;
  const mine = derived.spokes.find((s) => s.name === question.spoke);
  const flange = mine?.hub_radius_mm ?? 20;
  return (
    <Drawing
      box={[-edge, -edge, 2 * edge, 2 * edge]}
      role="img"
      aria-label={say`Hub and rim from the right side, ${question.laced.length} spokes in`}
      className="aspect-square w-full max-h-[560px]"
    >
      <circle r={rim + 6} fill="none" className="stroke-line-strong" strokeWidth={14} />
      <path d={`M0 ${-rim - 14}v26`} className="stroke-ink" strokeWidth={9} strokeLinecap="round" />
      <circle r={flange} fill="none" className="stroke-line-strong" strokeWidth={5} />
      {derived.spokes
        .filter((s) => question.laced.includes(s.name))
        .map((s) => {
          const [x1, y1] = point(rim, s.angle_deg);
          const [x2, y2] = point(s.hub_radius_mm, s.hub_angle_deg);
          return (
            <line
              key={s.name}
              {...{ x1, y1, x2, y2 }}
              className={
                s.name === question.other ? "stroke-signal" : s.side === "R" ? "stroke-ink" : "stroke-ghost"
              }
              strokeWidth={s.name === question.other ? 7 : 3}
            />
          );
        })}
      {mine && question.what === "cross" && (
        <line
          x1={point(rim, mine.angle_deg)[0]}
          y1={point(rim, mine.angle_deg)[1]}
          x2={point(mine.hub_radius_mm, mine.hub_angle_deg)[0]}
          y2={point(mine.hub_radius_mm, mine.hub_angle_deg)[1]}
          className="stroke-ink"
          strokeWidth={6}
          strokeDasharray="14 8"
        />
      )}
      {mine && (
        <circle
          cx={point(mine.hub_radius_mm, mine.hub_angle_deg)[0]}
          cy={point(mine.hub_radius_mm, mine.hub_angle_deg)[1]}
          r={9}
          className="fill-signal stroke-ink"
          strokeWidth={3}
        />
      )}
      {derived.spokes.map((s, i) => {
        const [x, y] = point(rim + 32, s.angle_deg);
        const [hx, hy] = point(rim + 6, s.angle_deg);
        return (
          <g
            key={s.name}
            onClick={onHole && (() => onHole(i + 1))}
            className={classes(onHole && "cursor-pointer")}
          >
            <circle cx={(x + hx) / 2} cy={(y + hy) / 2} r={26} fill="transparent" />
            <circle cx={hx} cy={hy} r={4} className={s.side === "R" ? "fill-ink" : "fill-face stroke-ink"} />
            <text
              x={x}
              y={y}
              dy="0.35em"
              textAnchor="middle"
              className="fill-ink font-figure text-(length:--letter)"
            >
              {i + 1}
            </text>
          </g>
        );
      })}
    </Drawing>
  );
}

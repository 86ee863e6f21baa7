import { Drawing } from "@/ui/Drawing";
import { t as say } from "@lingui/core/macro";
import type { Schemas } from "@/api/client";
import { classes } from "@/ui/classes";

interface DamageMapProps {
  derived: Schemas["Derived"];
  marks: readonly Schemas["ConditionMark"][];
  breaks: readonly Schemas["Break"][];
  bent: readonly string[];
  selected: string;
  onSelect: (spoke: string) => void;
  className?: string;
}

/** The wheel to scale from its right side, valve at the top; what was found stands at its spoke. Touch the rim to choose a place. */
export function DamageMap({ derived, marks, breaks, bent, selected, onSelect, className }: DamageMapProps) {
  const rim = derived.rim_radius_mm;
  const edge = rim + 86;
  const point = (radius: number, angle: number): [number, number] => {
    const rad = (angle * Math.PI) / 180;
    return [radius * Math.sin(rad), -radius * Math.cos(rad)];
  };
  const half = 180 / derived.spokes.length;
  const sector = (angle: number) => {
    const [a, b] = [angle - half, angle + half];
    const outer = rim + 80;
    const inner = rim * 0.62;
    const [x1, y1] = point(outer, a);
    const [x2, y2] = point(outer, b);
    const [x3, y3] = point(inner, b);
    const [x4, y4] = point(inner, a);
    return `M${x1} ${y1}A${outer} ${outer} 0 0 1 ${x2} ${y2}L${x3} ${y3}A${inner} ${inner} 0 0 0 ${x4} ${y4}Z`;
  };
  const broken = new Set(breaks.map((b) => b.spoke));
  return (
    <Drawing
      box={[-edge, -edge, 2 * edge, 2 * edge]}
      className={classes("block", className)}
      role="img"
      aria-label={say`Wheel from the right side, valve at the top, ${selected || say`no spoke`} chosen, ${marks.length} marks`}
    >
      {derived.spokes.map((s) => (
        <path
          key={s.name}
          d={sector(s.angle_deg)}
          onClick={() => onSelect(s.name)}
          className={classes("cursor-pointer", s.name === selected ? "fill-sunk" : "fill-transparent")}
        >
          <title>{s.name}</title>
        </path>
      ))}
      <g className="pointer-events-none">
        <circle r={rim + 24} fill="none" className="stroke-line" strokeWidth={30} />
        <circle r={rim + 4} fill="none" className="stroke-line-strong" strokeWidth={10} />
        <path d={`M0 ${-rim - 2}v30`} className="stroke-ink" strokeWidth={9} strokeLinecap="round" />
        {derived.spokes.map((s) => {
          const [x1, y1] = point(rim, s.angle_deg);
          const [x2, y2] = point(s.hub_radius_mm, s.hub_angle_deg);
          const gone = broken.has(s.name);
          return (
            <g key={s.name}>
              <line
                {...{ x1, y1, x2, y2 }}
                className={gone ? "stroke-danger" : s.side === "R" ? "stroke-ink" : "stroke-ghost"}
                strokeWidth={s.name === selected ? 7 : gone ? 4 : 2}
                strokeDasharray={gone ? "14 12" : undefined}
              />
              {bent.includes(s.name) && (
                <Arc rim={rim} angle={s.angle_deg} half={half} className="stroke-danger" />
              )}
              {s.name === selected && <Label at={point(rim * 0.74, s.angle_deg)} text={s.name} />}
            </g>
          );
        })}
        <circle
          r={Math.max(...derived.spokes.map((s) => s.hub_radius_mm)) + 4}
          className="fill-plate stroke-ink"
          strokeWidth={3}
        />
        {marks.map((m, i) => {
          const spoke = derived.spokes.find((s) => s.name === m.spoke);
          const same = marks.slice(0, i).filter((o) => o.spoke === m.spoke).length;
          const [x, y] = spoke ? point(rim + 24 + 30 * same, spoke.angle_deg) : [26 * same - 13, 0];
          return <Sign key={m.id} x={x} y={y} number={i + 1} level={m.level} />;
        })}
      </g>
    </Drawing>
  );
}

function Arc({
  rim,
  angle,
  half,
  className,
}: {
  rim: number;
  angle: number;
  half: number;
  className: string;
}) {
  const r = rim + 44;
  const at = (a: number) => {
    const rad = (a * Math.PI) / 180;
    return `${r * Math.sin(rad)} ${-r * Math.cos(rad)}`;
  };
  return (
    <path
      d={`M${at(angle - half)}A${r} ${r} 0 0 1 ${at(angle + half)}`}
      fill="none"
      className={className}
      strokeWidth={6}
    />
  );
}

function Label({ at, text }: { at: [number, number]; text: string }) {
  return (
    <text
      x={at[0]}
      y={at[1] + 8}
      textAnchor="middle"
      className="fill-ink stroke-face font-figure text-[max(30px,var(--letter))] font-bold"
      strokeWidth={8}
      paintOrder="stroke"
    >
      {text}
    </text>
  );
}

/** A mark's number on a shape that grows graver: round, square on its tip, filled. */
function Sign({
  x,
  y,
  number,
  level,
}: {
  x: number;
  y: number;
  number: number;
  level: Schemas["ConditionLevelEnum"];
}) {
  const grave = level === "not_to_ride";
  const look = grave
    ? "fill-danger stroke-danger"
    : level === "watch"
      ? "fill-plate stroke-danger"
      : "fill-plate stroke-ink";
  return (
    <g transform={`translate(${x} ${y})`}>
      {level === "record" ? (
        <circle r={15} className={look} strokeWidth={3} />
      ) : (
        <rect
          x={-15}
          y={-15}
          width={30}
          height={30}
          transform="rotate(45)"
          className={look}
          strokeWidth={4}
        />
      )}
      <text
        y={7}
        textAnchor="middle"
        className={classes("text-[max(20px,var(--letter))] font-bold", grave ? "fill-face" : "fill-ink")}
      >
        {number}
      </text>
    </g>
  );
}

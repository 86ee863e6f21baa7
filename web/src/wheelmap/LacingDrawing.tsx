import { Drawing } from "@/ui/Drawing";
import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "@/api/client";
import { classes } from "@/ui/classes";
import { figure } from "@/ui/number";

interface LacingDrawingProps {
  derived: Schemas["Derived"];
  places: readonly Schemas["LacingPlace"][];
  /** Spokes that are in: the first so many of `places`. */
  placed: number;
  /** The spoke in hand, by its name; empty for none. */
  current: string;
  className?: string;
}

/** The wheel to scale from its right side while it is laced: what is in, the spoke in hand, its two holes with their numbers. */
export function LacingDrawing({ derived, places, placed, current, className }: LacingDrawingProps) {
  const rim = derived.rim_radius_mm;
  const edge = rim + 52;
  // The hub is drawn larger than it is, so that its holes can be told apart; angles stay true.
  const largest = Math.max(...derived.spokes.map((s) => s.hub_radius_mm));
  const grow = Math.max(1, 74 / largest);
  const by = new Map(derived.spokes.map((s) => [s.name, s]));
  const inside = new Set(places.slice(0, placed).map((p) => p.spoke));
  const point = (radius: number, angle: number): [number, number] => {
    const rad = (angle * Math.PI) / 180;
    return [radius * Math.sin(rad), -radius * Math.cos(rad)];
  };
  const hand = places.find((p) => p.spoke === current);
  const order = [...places].sort((a, b) => rank(a, inside, current) - rank(b, inside, current));
  const holeRadius = (name: string) => {
    const spoke = by.get(name);
    // The left flange lies behind: its holes a little inside, so that both rows are seen.
    return spoke ? spoke.hub_radius_mm * grow * (spoke.side === "R" ? 1 : 0.8) : 0;
  };
  return (
    <Drawing
      box={[-edge, -edge, 2 * edge, 2 * edge]}
      className={classes("block", className)}
      role="img"
      aria-label={say`Wheel from the right side, ${placed} of ${places.length} spokes in${current ? say`, ${current} in hand` : ""}`}
    >
      <circle r={rim + 24} fill="none" className="stroke-line" strokeWidth={30} />
      <circle r={rim + 4} fill="none" className="stroke-line-strong" strokeWidth={10} />
      <path d={`M0 ${-rim - 2}v34`} className="stroke-ink" strokeWidth={10} strokeLinecap="round" />
      <circle r={largest * grow + 10} className="fill-plate stroke-line-strong" strokeWidth={3} />
      <circle r={largest * grow * 0.8 - 10} fill="none" className="stroke-line" strokeWidth={2} />
      {order.map((p) => {
        const spoke = by.get(p.spoke);
        if (!spoke) return null;
        const [x1, y1] = point(rim, spoke.angle_deg);
        const [x2, y2] = point(holeRadius(p.spoke), spoke.hub_angle_deg);
        const on = p.spoke === current;
        const drawn = inside.has(p.spoke);
        return (
          <g key={p.spoke}>
            {(on || drawn) && (
              <line
                {...{ x1, y1, x2, y2 }}
                className={on ? "stroke-ink" : p.side === "R" ? "stroke-ink" : "stroke-ghost"}
                strokeWidth={on ? 12 : p.head === "in" ? 4.5 : 2.5}
              />
            )}
            {on && <line {...{ x1, y1, x2, y2 }} className="stroke-signal" strokeWidth={7} />}
            <circle
              cx={x1}
              cy={y1}
              r={on ? 12 : 4}
              className={on ? "fill-signal stroke-ink" : drawn ? "fill-ink" : "fill-face stroke-line-strong"}
              strokeWidth={on ? 3 : 1.5}
            />
            <circle
              cx={x2}
              cy={y2}
              r={on ? 9 : 3.2}
              className={on ? "fill-signal stroke-ink" : drawn ? "fill-ink" : "fill-face stroke-line-strong"}
              strokeWidth={on ? 3 : 1.2}
            />
          </g>
        );
      })}
      {hand && <Numbers hand={hand} spoke={by.get(hand.spoke)} rim={rim} point={point} />}
      {grow > 1 && (
        <text y={edge - 6} x={-edge + 6} className="fill-muted text-(length:--letter)">
          <Trans>hub drawn {figure(grow, 1)} times larger</Trans>
        </text>
      )}
      <text y={-rim + 62} textAnchor="middle" className="fill-muted text-(length:--letter)">
        <Trans>valve</Trans>
      </text>
    </Drawing>
  );
}

function rank(p: Schemas["LacingPlace"], inside: Set<string>, current: string): number {
  return p.spoke === current ? 2 : inside.has(p.spoke) ? 1 : 0;
}

interface NumbersProps {
  hand: Schemas["LacingPlace"];
  spoke: Schemas["SpokePlace"] | undefined;
  rim: number;
  point: (radius: number, angle: number) => [number, number];
}

function Numbers({ hand, spoke, rim, point }: NumbersProps) {
  if (!spoke) return null;
  const [x, y] = point(rim + 28, spoke.angle_deg);
  return (
    <>
      <circle cx={x} cy={y} r={23} className="fill-ink" />
      <text
        x={x}
        y={y + 10}
        textAnchor="middle"
        className="fill-face font-figure text-[max(28px,var(--letter))] font-bold"
      >
        {hand.rim_hole}
      </text>
      <circle r={30} className="fill-ink" />
      <text
        y={12}
        textAnchor="middle"
        className="fill-face font-figure text-[max(34px,var(--letter))] font-bold"
      >
        {hand.flange_hole}
      </text>
    </>
  );
}

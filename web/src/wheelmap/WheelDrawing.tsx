import { t as say } from "@lingui/core/macro";
import { useState } from "react";
import type { Schemas } from "@/api/client";
import { classes } from "@/ui/classes";

interface WheelDrawingProps {
  derived: Schemas["Derived"];
  selected: string;
  className?: string;
  /** Turn the wheel so that the spoke in work is at the bottom, as in the stand. */
  hanging?: boolean;
}

interface Turned {
  spoke: string;
  degrees: number;
}

/** The wheel to scale from its right side, angles clockwise from the valve. */
export function WheelDrawing({ derived, selected, className, hanging = true }: WheelDrawingProps) {
  const rim = derived.rim_radius_mm;
  const spoke = derived.spokes.find((s) => s.name === selected);
  const [turned, setTurned] = useState<Turned>({ spoke: "", degrees: 0 });
  // Keep the shorter way round: a wheel is turned on to the next spoke, not all the way back.
  if (spoke && turned.spoke !== selected) {
    const wanted = hanging ? 180 - spoke.angle_deg : 0;
    const delta = ((((wanted - turned.degrees) % 360) + 540) % 360) - 180;
    setTurned({ spoke: selected, degrees: turned.degrees + delta });
  }
  const point = (radius: number, angle: number): [number, number] => {
    const rad = (angle * Math.PI) / 180;
    return [radius * Math.sin(rad), -radius * Math.cos(rad)];
  };
  const edge = rim + 44;
  const hubRadius = Math.max(...derived.spokes.map((s) => s.hub_radius_mm));
  const ordered = [...derived.spokes].sort(
    (a, b) => Number(a.name === selected) - Number(b.name === selected),
  );
  return (
    <svg
      viewBox={`${-edge} ${-edge} ${2 * edge} ${2 * edge}`}
      className={classes("block", className)}
      role="img"
      aria-label={say`Wheel from the right side, ${selected} ${hanging ? say`at the bottom` : say`marked`}`}
    >
      <g className="transition-transform duration-300" style={{ transform: `rotate(${turned.degrees}deg)` }}>
        <circle r={rim + 24} fill="none" className="stroke-line" strokeWidth={30} />
        <circle r={rim + 4} fill="none" className="stroke-line-strong" strokeWidth={12} />
        <path d={`M0 ${-rim - 2}v30`} className="stroke-ink" strokeWidth={9} strokeLinecap="round" />
        {ordered.map((s) => {
          const [x1, y1] = point(rim, s.angle_deg);
          const [x2, y2] = point(s.hub_radius_mm, s.hub_angle_deg);
          const on = s.name === selected;
          return (
            <g key={s.name}>
              {on && <line {...{ x1, y1, x2, y2 }} className="stroke-ink" strokeWidth={11} />}
              <line
                {...{ x1, y1, x2, y2 }}
                className={on ? "stroke-signal" : s.side === "R" ? "stroke-ink" : "stroke-ghost"}
                strokeWidth={on ? 7 : s.side === "R" ? 2.4 : 2}
              />
              {on && <circle cx={x1} cy={y1} r={11} className="fill-signal stroke-ink" strokeWidth={3} />}
            </g>
          );
        })}
        <circle r={hubRadius + 4} className="fill-plate stroke-ink" strokeWidth={3} />
        {derived.spokes.map((s) => {
          const [x, y] = point(s.hub_radius_mm, s.hub_angle_deg);
          return (
            <circle
              key={s.name}
              cx={x}
              cy={y}
              r={2.2}
              className={s.side === "R" ? "fill-ink" : "fill-ghost"}
            />
          );
        })}
        <circle r={5} className="fill-ink" />
      </g>
    </svg>
  );
}

import { t as say } from "@lingui/core/macro";
import { memo, useState } from "react";
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

type Spoke = Schemas["Derived"]["spokes"][number];

function point(radius: number, angle: number): [number, number] {
  const rad = (angle * Math.PI) / 180;
  return [radius * Math.sin(rad), -radius * Math.cos(rad)];
}

function ends(spoke: Spoke, rim: number) {
  const [x1, y1] = point(rim, spoke.angle_deg);
  const [x2, y2] = point(spoke.hub_radius_mm, spoke.hub_angle_deg);
  return { x1, y1, x2, y2 };
}

/** All spokes; the one in work is covered by what marks it, so that a key redraws none of them. */
const Spokes = memo(function Spokes({ derived }: { derived: Schemas["Derived"] }) {
  return derived.spokes.map((s) => (
    <line
      key={s.name}
      {...ends(s, derived.rim_radius_mm)}
      className={s.side === "R" ? "stroke-ink" : "stroke-ghost"}
      strokeWidth={s.side === "R" ? 2.4 : 2}
    />
  ));
});

/** The spoke in work, over all others. */
function Marked({ spoke, rim }: { spoke: Spoke; rim: number }) {
  const at = ends(spoke, rim);
  return (
    <g>
      <line {...at} className="stroke-ink" strokeWidth={11} />
      <line {...at} className="stroke-signal" strokeWidth={7} />
      <circle cx={at.x1} cy={at.y1} r={11} className="fill-signal stroke-ink" strokeWidth={3} />
    </g>
  );
}

const Holes = memo(function Holes({ derived }: { derived: Schemas["Derived"] }) {
  return derived.spokes.map((s) => {
    const [x, y] = point(s.hub_radius_mm, s.hub_angle_deg);
    return (
      <circle key={s.name} cx={x} cy={y} r={2.2} className={s.side === "R" ? "fill-ink" : "fill-ghost"} />
    );
  });
});

/** The wheel to scale from its right side, angles clockwise from the valve. */
export const WheelDrawing = memo(function WheelDrawing(props: WheelDrawingProps) {
  const { derived, selected, className, hanging = true } = props;
  const rim = derived.rim_radius_mm;
  const spoke = derived.spokes.find((s) => s.name === selected);
  const [turned, setTurned] = useState<Turned>({ spoke: "", degrees: 0 });
  // Keep the shorter way round: a wheel is turned on to the next spoke, not all the way back.
  if (spoke && turned.spoke !== selected) {
    const wanted = hanging ? 180 - spoke.angle_deg : 0;
    const delta = ((((wanted - turned.degrees) % 360) + 540) % 360) - 180;
    setTurned({ spoke: selected, degrees: turned.degrees + delta });
  }
  const edge = rim + 44;
  const hubRadius = Math.max(...derived.spokes.map((s) => s.hub_radius_mm));
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
        <Spokes derived={derived} />
        {spoke && <Marked spoke={spoke} rim={rim} />}
        <circle r={hubRadius + 4} className="fill-plate stroke-ink" strokeWidth={3} />
        <Holes derived={derived} />
        <circle r={5} className="fill-ink" />
      </g>
    </svg>
  );
});

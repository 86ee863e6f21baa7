import { type PointerEvent, useRef } from "react";
import { closed, niceRange, pathThrough, xOf } from "./scale";
import type { WheelState } from "./types";

const HEIGHT = 48;

interface WholeProps {
  state: WheelState;
  width: number;
  selected: string;
  /** The part that the window shows, as shares of the rim. */
  from: number;
  share: number;
  onGo: (middle: number) => void;
}

/** The whole rim above its window: how it runs, what stands out, and where the window is. A finger moves it. */
export function Whole({ state, width, selected, from, share, onGo }: WholeProps) {
  const frame = useRef<SVGSVGElement>(null);
  const angles = state.trace.angle_deg;
  const range = niceRange(Math.max(state.tier.lateral_mm, ...state.trace.lateral_mm.map(Math.abs)));
  const y = (mm: number) => 20 - (mm / range) * 16;
  const points = closed(angles, state.trace.lateral_mm).map(([a, v]): [number, number] => [
    xOf(a, width),
    y(v),
  ]);
  const half = (state.tier.lateral_mm / 2 / range) * 16;
  const go = (event: PointerEvent<SVGSVGElement>) => {
    if (event.type === "pointermove" && event.buttons === 0) return;
    const box = frame.current?.getBoundingClientRect();
    if (box) onGo((event.clientX - box.left) / box.width);
  };
  return (
    <svg
      ref={frame}
      width={width}
      height={HEIGHT}
      aria-hidden="true"
      className="block touch-none"
      onPointerDown={go}
      onPointerMove={go}
    >
      <rect x={0} y={20 - half} width={width} height={2 * half} className="fill-tube" />
      <path d={pathThrough(points)} fill="none" className="stroke-ink" strokeWidth={1.75} />
      {state.spokes.map((spoke) => (
        <rect
          key={spoke.name}
          x={xOf(spoke.angle_deg, width) - (spoke.outside || spoke.name === selected ? 2.5 : 1)}
          y={38}
          width={spoke.outside || spoke.name === selected ? 5 : 2}
          height={8}
          className={
            spoke.name === selected ? "fill-signal stroke-ink" : spoke.outside ? "fill-danger" : "fill-muted"
          }
        />
      ))}
      <rect
        x={from * width + 1}
        y={1}
        width={share * width - 2}
        height={HEIGHT - 2}
        rx={3}
        className="fill-signal stroke-ink"
        fillOpacity={0.18}
        strokeWidth={2}
      />
    </svg>
  );
}

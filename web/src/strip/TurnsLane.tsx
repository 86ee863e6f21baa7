import { Trans } from "@lingui/react/macro";
import { memo } from "react";
import { fractionParts } from "@/ui/Fraction";
import type { Move, WheelState } from "./types";
import { xOf } from "./scale";

interface TurnsLaneProps {
  state: WheelState;
  moves: readonly Move[];
  width: number;
  top: number;
  height: number;
}

/** What the two marks say, left of the lane. */
export const TurnsLabels = memo(function TurnsLabels({
  gutter,
  top,
  height,
}: Pick<TurnsLaneProps, "top" | "height"> & { gutter: number }) {
  const middle = top + height / 2;
  return (
    <g>
      <text x={8 - gutter} y={middle - 9} className="fill-ink text-[13px] font-bold">
        <Trans>turns</Trans>
      </text>
      <text x={8 - gutter} y={middle + 6} className="fill-muted text-[12px]">
        <Trans>▲ tighten</Trans>
      </text>
      <text x={8 - gutter} y={middle + 21} className="fill-muted text-[12px]">
        <Trans>▽ ease</Trans>
      </text>
    </g>
  );
});

/** The turns to make: a solid wedge pointing up tightens, an open one pointing down eases; done ones fade with a tick. */
export const TurnsLane = memo(function TurnsLane({ state, moves, width, top, height }: TurnsLaneProps) {
  const angle = new Map(state.spokes.map((s) => [s.name, s.angle_deg]));
  const middle = top + height / 2;
  return (
    <g>
      {moves.map((move) => {
        const x = xOf(angle.get(move.spoke) ?? 0, width);
        const done = move.state !== "todo";
        const up = move.turns > 0;
        return (
          <g key={move.spoke} opacity={done ? 0.4 : 1}>
            <path
              d={up ? `M${x - 8} ${middle + 12}h16l-8 -12z` : `M${x - 8} ${middle}h16l-8 12z`}
              className={up ? "fill-ink stroke-ink" : "fill-plate stroke-ink"}
              strokeWidth={1.5}
              strokeLinejoin="round"
            />
            <StackedFraction text={move.fraction} x={x} y={up ? middle - 14 : middle + 27} />
            {done && (
              <text
                x={x}
                y={up ? middle + 27 : middle - 6}
                textAnchor="middle"
                className="fill-ink text-[13px] font-bold"
              >
                {move.state === "skipped" ? "–" : "✓"}
              </text>
            )}
          </g>
        );
      })}
    </g>
  );
});

function StackedFraction({ text, x, y }: { text: string; x: number; y: number }) {
  const { whole, top, bottom } = fractionParts(text);
  const shift = whole && top ? 5 : 0;
  return (
    <g className="fill-ink font-figure">
      {whole && (
        <text x={x - shift} y={y + 5} textAnchor="middle" className="text-[15px] font-bold">
          {whole}
        </text>
      )}
      {top && (
        <>
          <text x={x + shift} y={y - 1} textAnchor="middle" className="text-[12px] font-bold">
            {top}
          </text>
          <line
            x1={x + shift - 5}
            x2={x + shift + 5}
            y1={y + 1.5}
            y2={y + 1.5}
            className="stroke-ink"
            strokeWidth={1.25}
          />
          <text x={x + shift} y={y + 12} textAnchor="middle" className="text-[12px] font-bold">
            {bottom}
          </text>
        </>
      )}
    </g>
  );
}

import { Trans } from "@lingui/react/macro";
import { memo } from "react";
import { type ForceUnit, shownForce } from "@/ui/forces";
import { LOOKS, type Over } from "./looks";
import type { WheelState } from "./types";
import { xOf } from "./scale";

interface TensionLaneProps {
  state: WheelState;
  over?: readonly Over[];
  unit: ForceUnit;
  width: number;
  top: number;
  height: number;
}

/** How newtons lie in the lane: one scale for both sides, shared out by what each needs. */
function upright({ state, over = [], top, height }: Omit<TensionLaneProps, "width" | "unit">) {
  const behind = over.filter((o) => LOOKS[o.look].behind);
  const front = over.filter((o) => !LOOKS[o.look].behind);
  const most = Math.max(
    state.target_n * 1.15,
    ...state.spokes.map((s) => s.tension_n),
    ...behind.flatMap((o) => o.tension_n ?? []),
  );
  const mostOf = (side: "R" | "L") =>
    Math.max(
      state.sides[side].target_n * 1.3,
      ...state.spokes.filter((s) => s.side === side).map((s) => s.tension_n),
    );
  const both = mostOf("R") + mostOf("L");
  const label = 16;
  const usable = height - 2 * label;
  const axis = top + label + usable * (mostOf("R") / both);
  const perN = usable / both;
  const y = (side: "R" | "L", n: number) => axis + (side === "R" ? -1 : 1) * Math.max(0, n) * perN;
  return { behind, front, most, axis, perN, y };
}

/** What the lane is called, and each side's target, left of it. */
export const TensionLabels = memo(function TensionLabels({
  gutter,
  ...props
}: Omit<TensionLaneProps, "width"> & { gutter: number }) {
  const { state, unit } = props;
  const { axis, y } = upright(props);
  return (
    <g>
      {(["R", "L"] as const).map((side) => {
        const at = y(side, state.sides[side].target_n);
        return (
          <text
            key={side}
            x={-8}
            y={side === "R" ? Math.min(at + 4, axis - 26) : Math.max(at + 4, axis + 28)}
            textAnchor="end"
            className="fill-muted font-figure text-[12px]"
          >
            {shownForce(state.sides[side].target_n, unit)}
          </text>
        );
      })}
      <text x={8 - gutter} y={axis - 13} className="fill-ink text-[13px] font-bold">
        <Trans>Tension</Trans>
      </text>
      <text x={8 - gutter} y={axis + 1} className="fill-muted text-[12px]">
        <Trans>● right, {unit}</Trans>
      </text>
      <text x={8 - gutter} y={axis + 15} className="fill-muted text-[12px]">
        <Trans>○ left</Trans>
      </text>
    </g>
  );
});

/** Tensions: right side rising from the middle line with filled marks, left side hanging from it with hollow ones. */
export const TensionLane = memo(function TensionLane(props: TensionLaneProps) {
  const { state, unit, width } = props;
  const { behind, front, most, axis, perN, y } = upright(props);
  const spacing = width / state.spokes.length;
  const band = state.tier.tension_percent / 100;
  const roomForFigures = spacing >= (unit === "N" && most >= 1000 ? 30 : 23);
  return (
    <g>
      {(["R", "L"] as const).map((side) => {
        const { mean_n, target_n } = state.sides[side];
        const a = y(side, mean_n * (1 - band));
        const b = y(side, mean_n * (1 + band));
        return (
          <g key={side}>
            <rect x={0} y={Math.min(a, b)} width={width} height={Math.abs(a - b)} className="fill-tube" />
            <line
              x1={0}
              x2={width}
              y1={y(side, target_n)}
              y2={y(side, target_n)}
              className="stroke-line-strong"
              strokeDasharray="8 4"
            />
          </g>
        );
      })}
      <line x1={0} x2={width} y1={axis} y2={axis} className="stroke-ink" strokeWidth={1.5} />
      {state.spokes.map((spoke, i) => {
        const x = xOf(spoke.angle_deg, width);
        const tip = y(spoke.side, spoke.tension_n);
        const up = spoke.side === "R" ? -1 : 1;
        const measured = spoke.measured_n !== null;
        const tone = spoke.outside ? "stroke-danger" : "stroke-ink";
        const fill = spoke.outside ? "fill-danger" : "fill-ink";
        const reach = spoke.tension_sd_n * perN;
        const drawn = ({ look, tension_n }: Over, n: number) => {
          const at = tension_n?.[i];
          if (at === undefined) return null;
          const { half, width: thick, dash } = LOOKS[look].mark;
          return (
            <path
              key={`${look} ${n}`}
              d={`M${(x - half).toFixed(1)} ${y(spoke.side, at).toFixed(1)}h${2 * half}`}
              className={LOOKS[look].stroke}
              strokeWidth={thick}
              strokeDasharray={dash}
            />
          );
        };
        return (
          <g key={spoke.name}>
            {behind.map(drawn)}
            {!measured && reach > 3 && (
              <line x1={x} x2={x} y1={tip - reach} y2={tip + reach} className="stroke-band" strokeWidth={7} />
            )}
            <line
              x1={x}
              x2={x}
              y1={axis}
              y2={tip}
              className={tone}
              strokeWidth={measured ? 2.5 : 1.25}
              {...(measured ? {} : { strokeDasharray: "2 3" })}
            />
            <circle
              cx={x}
              cy={tip}
              r={measured ? 5 : 3.5}
              className={`${tone} ${spoke.side === "R" ? fill : "fill-plate"}`}
              strokeWidth={2}
            />
            {front.map(drawn)}
            {(roomForFigures || spoke.outside) && (
              <text
                x={x}
                y={tip + up * 10 + (up > 0 ? 8 : 0)}
                textAnchor="middle"
                className={`font-figure text-[12px] ${spoke.outside ? "fill-danger font-bold" : "fill-muted"}`}
              >
                {shownForce(Math.max(0, spoke.tension_n), unit)}
              </text>
            )}
          </g>
        );
      })}
    </g>
  );
});

import { figure } from "@/ui/number";
import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { memo } from "react";
import { type Look, LOOKS, type Over } from "./looks";
import type { Trace, WheelState } from "./types";
import { closed, niceRange, pathThrough, xOf } from "./scale";

interface TraceLaneProps {
  which: "lateral" | "radial";
  state: WheelState;
  over?: readonly Over[];
  width: number;
  top: number;
  height: number;
}

const WORDS = { lateral: [say`Lateral`, say`right ↑`], radial: [say`Radial`, say`out ↑`] } as const;

function series(trace: Trace, which: "lateral" | "radial"): { mean: number[]; sd: number[] } {
  return which === "lateral"
    ? { mean: trace.lateral_mm, sd: trace.lateral_sd_mm }
    : { mean: trace.radial_mm, sd: trace.radial_sd_mm };
}

/** How millimetres lie in the lane: what is shown decides how far it reaches. */
function upright({ which, state, over = [], top, height }: Omit<TraceLaneProps, "width">) {
  const limit = which === "lateral" ? state.tier.lateral_mm : state.tier.radial_mm;
  const marks = which === "lateral" ? state.lateral_marks : state.radial_marks;
  const traced = over.flatMap(({ look, trace }) => (trace ? [{ look, trace }] : []));
  const behind = traced.filter((o) => LOOKS[o.look].behind);
  const all = [
    ...series(state.trace, which).mean,
    ...marks.map((m) => m.deviation_mm),
    ...behind.flatMap((o) => series(o.trace, which).mean),
  ];
  const range = niceRange(Math.max(limit * 0.75, ...all.map(Math.abs)) * 1.05);
  const middle = top + height / 2;
  const y = (mm: number) => middle - (Math.max(-range, Math.min(range, mm)) / range) * (height / 2 - 4);
  return { limit, marks, traced, behind, range, middle, y };
}

/** What the trace is called and how far it reaches, left of it. */
export const TraceLabels = memo(function TraceLabels({
  gutter,
  ...props
}: Omit<TraceLaneProps, "width"> & { gutter: number }) {
  const { range, middle, y } = upright(props);
  const { which } = props;
  const wide = gutter > 90;
  return (
    <g>
      {[range, -range].map((v) => (
        <text
          key={v}
          x={-8}
          y={y(v) + (v > 0 ? 10 : 0)}
          textAnchor="end"
          className="fill-muted font-figure text-[12px]"
        >
          {v > 0 ? "+" : "−"}
          {figure(range)}
        </text>
      ))}
      <text x={8 - gutter} y={middle + (wide ? -2 : 4)} className="fill-ink text-[13px] font-bold">
        {WORDS[which][0]}
      </text>
      {wide && (
        <text x={8 - gutter} y={middle + 12} className="fill-muted text-[12px]">
          <Trans>mm, {WORDS[which][1]}</Trans>
        </text>
      )}
    </g>
  );
});

/** One trace of the rim: tolerance as a tube, estimate as a line in its band, readings as marks. */
export const TraceLane = memo(function TraceLane(props: TraceLaneProps) {
  const { which, state, width } = props;
  const { limit, marks, traced, behind, middle, y } = upright(props);
  const { mean, sd } = series(state.trace, which);
  const angles = state.trace.angle_deg;
  const line = (values: number[]) =>
    pathThrough(closed(angles, values).map(([a, v]) => [xOf(a, width), y(v)]));
  const upper = closed(
    angles,
    mean.map((v, i) => v + (sd[i] ?? 0)),
  );
  const lower = closed(
    angles,
    mean.map((v, i) => v - (sd[i] ?? 0)),
  ).reverse();
  const band = `${pathThrough([...upper, ...lower].map(([a, v]) => [xOf(a, width), y(v)]))}Z`;
  const drawn = ({ look, trace }: { look: Look; trace: Trace }, i: number) => (
    <path
      key={`${look} ${i}`}
      d={line(series(trace, which).mean)}
      fill="none"
      className={LOOKS[look].stroke}
      strokeWidth={LOOKS[look].width}
      strokeDasharray={LOOKS[look].dash}
      strokeLinecap="round"
    />
  );
  return (
    <g>
      <rect
        x={0}
        y={y(limit / 2)}
        width={width}
        height={y(-limit / 2) - y(limit / 2)}
        className="fill-tube"
      />
      <path d={band} className="fill-band" opacity={0.75} />
      <line x1={0} x2={width} y1={middle} y2={middle} className="stroke-line-strong" strokeWidth={1} />
      {behind.map(drawn)}
      <path d={line(mean)} fill="none" className="stroke-ink" strokeWidth={2.25} strokeLinejoin="round" />
      {traced.filter((o) => !LOOKS[o.look].behind).map(drawn)}
      {marks.map((mark) => (
        <path
          key={mark.angle_deg}
          d={`M${xOf(mark.angle_deg, width).toFixed(1)} ${(y(mark.deviation_mm) - 4).toFixed(1)}v8m-3 -4h6`}
          className="stroke-ink"
          strokeWidth={1.25}
        />
      ))}
    </g>
  );
});

import { Drawing } from "@/ui/Drawing";
import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "@/api/client";
import { type ForceUnit, shownForce } from "@/ui/forces";
import { fullDay } from "@/ui/when";

type PastSet = Schemas["WheelHistory"]["jobs"][number]["sets"][number];

const WIDTH = 420;
const HEIGHT = 150;
const LEFT = 44;
const RIGHT = 10;
const BOTTOM = 20;

/** Mean tension of each side over the years, and how uneven the worse side was: one column for each set of readings. */
export function Trend({ sets, unit }: { sets: readonly PastSet[]; unit: ForceUnit }) {
  const read = [...sets].reverse().flatMap((set) => (set.figures?.right_mean_n == null ? [] : [set]));
  if (read.length < 2) {
    return (
      <section aria-label={say`Trend`}>
        <h2>
          <Trans>Trend</Trans>
        </h2>
        <p className="text-muted">
          <Trans>From the second set of tensions on.</Trans>
        </p>
      </section>
    );
  }
  const most = Math.max(
    ...read.flatMap((set) => [set.figures?.right_mean_n ?? 0, set.figures?.left_mean_n ?? 0]),
  );
  const top = Math.ceil((most * 1.15) / 200) * 200;
  const x = (place: number) => LEFT + ((WIDTH - LEFT - RIGHT) * (place + 0.5)) / read.length;
  const y = (force: number) => (HEIGHT - BOTTOM) * (1 - force / top) + 4;
  const line = (side: "right_mean_n" | "left_mean_n") =>
    read.map((set, place) => `${x(place).toFixed(1)},${y(set.figures?.[side] ?? 0).toFixed(1)}`).join(" ");
  const first = read[0];
  const last = read[read.length - 1];
  const change = (side: "right_mean_n" | "left_mean_n") => {
    const was = first?.figures?.[side] ?? 0;
    const is = last?.figures?.[side] ?? 0;
    return `${shownForce(was, unit)} → ${shownForce(is, unit)}`;
  };
  const ticks = [0, top / 2, top];
  return (
    <section aria-label={say`Trend`} className="flex flex-col gap-1">
      <h2>
        <Trans>Trend</Trans>
      </h2>
      <Drawing
        box={[0, 0, WIDTH, HEIGHT]}
        className="w-full"
        role="img"
        aria-label={say`Mean tension by set`}
      >
        {ticks.map((force) => (
          <g key={force}>
            <line x1={LEFT} x2={WIDTH - RIGHT} y1={y(force)} y2={y(force)} className="stroke-line" />
            <text
              x={LEFT - 6}
              y={y(force) + 4}
              textAnchor="end"
              className="fill-muted text-(length:--letter)"
            >
              {shownForce(force, unit)}
            </text>
          </g>
        ))}
        {read.map((set, place) => (
          <line
            key={set.id}
            x1={x(place)}
            x2={x(place)}
            y1={y(0)}
            y2={y(((set.figures?.spread_percent ?? 0) / 100) * top)}
            strokeWidth={10}
            className="stroke-band"
          />
        ))}
        <polyline points={line("right_mean_n")} fill="none" className="stroke-ink" strokeWidth={2} />
        <polyline points={line("left_mean_n")} fill="none" className="stroke-ghost" strokeWidth={2} />
        {read.map((set, place) => (
          <g key={set.id}>
            <circle cx={x(place)} cy={y(set.figures?.right_mean_n ?? 0)} r={4} className="fill-ink" />
            <circle
              cx={x(place)}
              cy={y(set.figures?.left_mean_n ?? 0)}
              r={4}
              strokeWidth={2}
              className="fill-face stroke-ink"
            />
          </g>
        ))}
        <text x={x(0)} y={HEIGHT - 4} textAnchor="middle" className="fill-muted text-(length:--letter)">
          {first ? fullDay(first.taken_at) : ""}
        </text>
        <text
          x={x(read.length - 1)}
          y={HEIGHT - 4}
          textAnchor="middle"
          className="fill-muted text-(length:--letter)"
        >
          {last ? fullDay(last.taken_at) : ""}
        </text>
      </Drawing>
      <p className="text-sm">
        <Trans>
          Mean, {unit}: ● right {change("right_mean_n")}, ○ left {change("left_mean_n")}. Bars: spread of the
          worse side, full height 100 %.
        </Trans>
      </p>
    </section>
  );
}

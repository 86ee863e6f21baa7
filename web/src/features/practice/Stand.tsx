import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "@/api/client";
import { Drawing } from "@/ui/Drawing";
import { classes } from "@/ui/classes";
import { signed } from "@/ui/forces";
import { rimAt, turnTo } from "./rim";

interface StandProps {
  run: Schemas["PracticeRun"];
  /** Where the wheel stands: this angle is at the pointers. */
  angle: number;
  gapMm: number;
  spoke: string;
  /** Whether dials stand beside the pointers. */
  dials: boolean;
  /** Where nothing else is looked at, it has the room. */
  large: boolean;
}

const MM = 22;
const DEG = 2.6;
const REACH = 52;
const HALF = 24;
/** Middle of the rim as seen from above, and its outer edge as seen from the side. */
const ABOVE = 0;
const SIDE = 250;

/** The rim where the pointers are: from above it wanders to a side, from the side it comes and goes. */
export function Stand({ run, angle, gapMm, spoke, dials, large }: StandProps) {
  const { now, derived } = run;
  const marks = Array.from({ length: 53 }, (_, i) => -REACH + 2 * i);
  const line = (at: (mm: number) => number, which: "lateral_mm" | "radial_mm") =>
    marks.map((by) => `${at(rimAt(now, which, angle + by)).toFixed(1)} ${(by * DEG).toFixed(1)}`).join("L");
  const lateral = rimAt(now, "lateral_mm", angle);
  const radial = rimAt(now, "radial_mm", angle);
  const rubs = { right: lateral > gapMm, left: lateral < -gapMm, out: radial > gapMm };
  const seen = derived.spokes.filter((s) => Math.abs(turnTo(angle, s.angle_deg)) <= REACH - 3);
  const from = HALF + gapMm * MM;
  return (
    <Drawing
      box={[-135, -150, 500, 306]}
      role="img"
      aria-label={say`The rim between the pointers at ${spoke}: ${rubs.right ? say`rubs on the right` : rubs.left ? say`rubs on the left` : rubs.out ? say`rubs below` : say`free`}`}
      className={classes(
        "w-full",
        large ? "max-h-[520px] low:max-h-[440px]" : "max-h-[240px] low:max-h-[196px]",
      )}
    >
      <path
        d={`M${line((mm) => ABOVE + mm * MM - HALF, "lateral_mm")}L${line(
          (mm) => ABOVE + mm * MM + HALF,
          "lateral_mm",
        )
          .split("L")
          .reverse()
          .join("L")}Z`}
        className="fill-sunk stroke-line-strong"
        strokeWidth={1.5}
      />
      <path
        d={`M${line((mm) => SIDE + mm * MM, "radial_mm")}L${SIDE - 60} ${REACH * DEG}L${SIDE - 60} ${-REACH * DEG}Z`}
        className="fill-sunk stroke-line-strong"
        strokeWidth={1.5}
      />
      {seen.map((s) => {
        const y = turnTo(angle, s.angle_deg) * DEG;
        const x = ABOVE + rimAt(now, "lateral_mm", s.angle_deg) * MM;
        const right = s.side === "R";
        const on = s.name === spoke;
        const blade = now.blades.find((b) => b.spoke === s.name);
        const gone = now.snapped.includes(s.name);
        return (
          <g key={s.name} className={on ? "fill-ink" : "fill-muted"}>
            {blade ? (
              <path
                d="M-9 0h18"
                transform={`translate(${x + (right ? 10 : -10)} ${y}) rotate(${90 + blade.degrees})`}
                className={Math.abs(blade.degrees) > 15 ? "stroke-danger" : "stroke-ink"}
                strokeWidth={on ? 5 : 3}
              />
            ) : (
              <circle cx={x + (right ? 8 : -8)} cy={y} r={on ? 5 : 3} />
            )}
            {gone && (
              <path
                d={`M${x - 8} ${y - 8}l16 16m0-16l-16 16`}
                className="stroke-danger"
                strokeWidth={3}
                fill="none"
              />
            )}
            <text
              x={x + (right ? HALF + 6 : -HALF - 6)}
              y={y}
              dy="0.35em"
              textAnchor={right ? "start" : "end"}
              className={classes("font-figure text-(length:--letter)", on && "font-bold")}
            >
              {s.name}
            </text>
          </g>
        );
      })}
      <Pointer x={ABOVE + from} toward={-1} rubs={rubs.right} />
      <Pointer x={ABOVE - from} toward={1} rubs={rubs.left} />
      <Pointer x={SIDE + gapMm * MM} toward={-1} rubs={rubs.out} />
      <text x={ABOVE} y={151} textAnchor="middle" className="fill-muted text-(length:--letter)">
        <Trans>from above</Trans>
      </text>
      <text x={SIDE} y={151} textAnchor="middle" className="fill-muted text-(length:--letter)">
        <Trans>from the side</Trans>
      </text>
      {dials && (
        <g className="fill-ink font-figure text-(length:--letter) font-bold">
          <text x={ABOVE + 134} y={-136} textAnchor="end">
            {signed(Math.round(lateral * 20) / 20, 2)}
          </text>
          <text x={SIDE + 110} y={-136} textAnchor="end">
            {signed(Math.round(radial * 20) / 20, 2)}
          </text>
        </g>
      )}
    </Drawing>
  );
}

function Pointer({ x, toward, rubs }: { x: number; toward: 1 | -1; rubs: boolean }) {
  return (
    <path
      d={`M${x} 0l${-18 * toward} -8v16z M${x - 18 * toward} 0h${-22 * toward}`}
      className={rubs ? "fill-danger stroke-danger" : "fill-ink stroke-ink"}
      strokeWidth={3}
    />
  );
}

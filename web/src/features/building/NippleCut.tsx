import type { Sizing } from "./useSizing";

interface NippleCutProps {
  nipple: Sizing["nipple"];
  /** Where the spoke's end stands from the slot's bottom, + toward the tyre. */
  end_mm: number;
  usable: boolean;
}

const MM = 7;

/** A nipple cut open, tyre side up, to scale: its slot, the window for the end, the head's base, and the spoke in it. */
export function NippleCut({ nipple, end_mm, usable }: NippleCutProps) {
  const above = 4;
  const below = nipple.length_mm - nipple.slot_mm + 3;
  const y = (mm: number) => (above - mm) * MM;
  const width = 70;
  const mid = width / 2;
  const body = 2.0 * MM;
  const head = 2.75 * MM;
  const bore = 1.0 * MM;
  const base = -(nipple.head_mm - nipple.slot_mm);
  const foot = -(nipple.length_mm - nipple.slot_mm);
  const end = Math.max(-below + 1, Math.min(above - 0.3, end_mm));
  const threads = [];
  for (let mm = end - 0.45; mm > end - 9.5 && mm > -below; mm -= 0.9) threads.push(mm);
  return (
    <svg viewBox={`0 0 ${width} ${(above + below) * MM}`} className="h-[112px] w-[70px]" aria-hidden="true">
      {/* Rim's bed under the head. */}
      <path
        d={`M0 ${y(base)}h${mid - body - 2}v9h-${mid - body - 2}zM${width} ${y(base)}h-${mid - body - 2}v9h${mid - body - 2}z`}
        className="fill-line-strong"
      />
      <path
        d={`M${mid - head} ${y(nipple.slot_mm)}h${head - bore}v${nipple.slot_mm * MM}h${2 * bore}v${-nipple.slot_mm * MM}h${head - bore}V${y(base)}h${-(head - body)}V${y(foot)}h${-2 * body}V${y(base)}h${-(head - body)}z`}
        className="fill-tag stroke-ink"
        strokeWidth={1.5}
      />
      <rect x={mid - bore} y={y(0)} width={2 * bore} height={(0 - foot) * MM} className="fill-face" />
      <rect
        x={mid - bore - 5}
        y={y(0)}
        width={2 * bore + 10}
        height={MM}
        className="fill-tube stroke-line-strong"
      />
      <rect
        x={mid - bore + 2}
        y={y(end)}
        width={2 * bore - 4}
        height={(end + below) * MM}
        className={usable ? "fill-ink" : "fill-danger"}
      />
      {threads.map((mm) => (
        <path
          key={mm}
          d={`M${mid - bore + 1} ${y(mm)}h${2 * bore - 2}`}
          className="stroke-face"
          strokeWidth={1}
        />
      ))}
      <path d={`M2 ${y(0)}h12M${width - 14} ${y(0)}h12`} className="stroke-ink" strokeWidth={1.5} />
    </svg>
  );
}

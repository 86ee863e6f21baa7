import { t as say } from "@lingui/core/macro";
export type Sketch = "rods" | "inside" | "bed" | "flange" | "locknut" | "old" | "center";

const SAYS: Record<Sketch, string> = {
  rods: say`A rod through each of two opposite holes, ends at the bottom of the nipples' slots; measure the gap between the rods. Then the same a third of the way round.`,
  inside: say`Tape or caliper across the inside of the rim, then the thickness of the bed at a hole.`,
  bed: say`Caliper from the middle of a spoke hole to each edge of the rim, left and right seen from behind.`,
  flange: say`Between opposite holes: inner edges, or outer edges, or both to prove each other.`,
  old: say`Caliper over the outer faces of both locknuts, or of the end caps that sit in the dropouts; not over the axle's ends.`,
  center: say`From the middle of the over-locknut width to the middle of the flange's thickness, as on a hub's drawing. With a caliper only, measure from the locknuts instead.`,
  locknut: say`Straight edge on the flange's outer face, depth to the locknut's outer face; then the flange's thickness.`,
};

/** Where to put the tool. */
export function MeasureSketch({ of }: { of: Sketch }) {
  return (
    <figure className="flex items-center gap-4">
      <svg viewBox="0 0 200 110" className="h-28 w-52 shrink-0 rounded-sm bg-sunk" aria-hidden="true">
        {of === "rods" && (
          <>
            <circle cx={100} cy={55} r={48} fill="none" className="stroke-ink" strokeWidth={5} />
            <path d="M54 55h36M110 55h36" className="stroke-ink" strokeWidth={4} />
            <Dimension x1={90} x2={110} y={70} />
          </>
        )}
        {of === "inside" && (
          <>
            <path d="M20 20q0 24 18 24h124q18 0 18 -24" fill="none" className="stroke-line" strokeWidth={3} />
            <circle cx={100} cy={55} r={48} fill="none" className="stroke-ink" strokeWidth={5} />
            <Dimension x1={55} x2={145} y={55} />
          </>
        )}
        {of === "bed" && (
          <>
            <path
              d="M50 20v40q0 30 40 32h30q30 -2 30 -32v-40"
              fill="none"
              className="stroke-ink"
              strokeWidth={5}
            />
            <path d="M112 76v22" className="stroke-ink" strokeWidth={7} />
            <Dimension x1={50} x2={112} y={44} />
            <Dimension x1={112} x2={150} y={58} />
          </>
        )}
        {of === "flange" && (
          <>
            <circle cx={100} cy={55} r={46} className="fill-plate stroke-ink" strokeWidth={3} />
            {Array.from({ length: 12 }, (_, i) => {
              const a = (i * Math.PI) / 6;
              return (
                <circle
                  key={i}
                  cx={100 + 37 * Math.cos(a)}
                  cy={55 + 37 * Math.sin(a)}
                  r={5}
                  className="fill-face stroke-ink"
                  strokeWidth={1.5}
                />
              );
            })}
            <Dimension x1={68} x2={132} y={55} />
          </>
        )}
        {(of === "old" || of === "center") && (
          <>
            <path d="M14 55h172" className="stroke-line-strong" strokeWidth={8} />
            <rect x={30} y={38} width={10} height={34} className="fill-ink" />
            <rect x={160} y={38} width={10} height={34} className="fill-ink" />
            <rect x={60} y={20} width={12} height={70} className="fill-plate stroke-ink" strokeWidth={3} />
            <rect x={122} y={20} width={12} height={70} className="fill-plate stroke-ink" strokeWidth={3} />
            <path d="M100 6v98" className="stroke-line-strong" strokeDasharray="8 3 2 3" />
            {of === "old" ? <Dimension x1={30} x2={170} y={98} /> : <Dimension x1={100} x2={128} y={14} />}
          </>
        )}
        {of === "locknut" && (
          <>
            <path d="M20 55h160" className="stroke-line-strong" strokeWidth={8} />
            <rect x={150} y={38} width={10} height={34} className="fill-ink" />
            <rect x={78} y={12} width={14} height={86} className="fill-plate stroke-ink" strokeWidth={3} />
            <Dimension x1={92} x2={160} y={28} />
          </>
        )}
      </svg>
      <figcaption className="text-sm">{SAYS[of]}</figcaption>
    </figure>
  );
}

function Dimension({ x1, x2, y }: { x1: number; x2: number; y: number }) {
  return (
    <path
      d={`M${x1} ${y}H${x2}M${x1} ${y}l6 -4m-6 4l6 4M${x2} ${y}l-6 -4m6 4l-6 4M${x1} ${y - 8}v16M${x2} ${y - 8}v16`}
      fill="none"
      className="stroke-danger"
      strokeWidth={2}
    />
  );
}

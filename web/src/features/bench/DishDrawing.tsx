import { Drawing } from "@/ui/Drawing";
import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { dishText } from "./dish";

interface DishDrawingProps {
  method: "gauge" | "flip" | "stand";
  side: "R" | "L";
  first: number | null;
  second: number | null;
}

const MIDDLE = 240;
const SCALE = 5;

/** How to hold the gauge or the pointer, drawn from behind the wheel with what is being typed. Left is the rider's left. */
export function DishDrawing({ method, side, first, second }: DishDrawingProps) {
  const sign = side === "R" ? 1 : -1;
  const clip = (mm: number) => Math.max(-7, Math.min(7, mm));
  const dish =
    method === "flip"
      ? first !== null && second !== null
        ? (second - first) / 2
        : 0
      : (sign * (first ?? 0)) / (method === "gauge" ? 2 : 1);
  // What is said is what was typed; only the drawing stops at its edge.
  const rim = MIDDLE + clip(dish) * SCALE;
  const said = `rim ${dishText(dish)}`;
  return (
    <Drawing
      box={[0, 0, 480, 150]}
      className="h-36 w-full max-w-xl"
      role="img"
      aria-label={say`From behind: ${said}`}
    >
      <path d={`M${MIDDLE} 6V144`} className="stroke-line-strong" strokeDasharray="10 4 2 4" />
      <path d="M150 120H330M150 106v28M330 106v28" className="stroke-ink" strokeWidth={4} />
      <path
        d={`M${rim - 12} 16v22q0 12 12 12t12 -12v-22`}
        fill="none"
        className="stroke-ink"
        strokeWidth={4}
      />
      <path d={`M${rim} 50L190 112M${rim} 50L290 112`} className="stroke-ghost" strokeWidth={2} />
      {method === "gauge" && (
        <Gauge side={side} rim={rim} gap={Math.abs(first ?? 0)} overlap={(first ?? 0) < 0} />
      )}
      {method === "flip" && (
        <>
          <path d={`M420 28H${rim + 16}`} className="stroke-signal" strokeWidth={5} />
          <text x={424} y={20} textAnchor="end" className="fill-muted text-(length:--letter)">
            <Trans>one pointer, wheel turned round between the readings</Trans>
          </text>
        </>
      )}
      {method === "stand" && <path d={`M${MIDDLE} 2v16`} className="stroke-signal" strokeWidth={7} />}
      <text x={20} y={140} className="fill-muted text-(length:--letter)">
        <Trans>left</Trans>
      </text>
      <text x={460} y={140} textAnchor="end" className="fill-muted text-(length:--letter)">
        <Trans>right</Trans>
      </text>
      <text x={20} y={22} className="fill-ink text-(length:--letter) font-bold">
        {said}
      </text>
    </Drawing>
  );
}

/** The arched gauge on the side of the gap: feet on the rim, its foot off the locknut by the gap. */
function Gauge({ side, rim, gap, overlap }: { side: "R" | "L"; rim: number; gap: number; overlap: boolean }) {
  const out = side === "R" ? 1 : -1;
  const locknut = MIDDLE + out * 90;
  const foot = locknut + out * Math.min(gap, 9) * SCALE * (overlap ? -0.4 : 1);
  return (
    <>
      <path
        d={`M${rim + out * 14} 30H${locknut + out * 66}V120H${foot}`}
        fill="none"
        className="stroke-signal"
        strokeWidth={5}
      />
      {gap > 0 && !overlap && (
        <path d={`M${locknut} 144H${foot}`} className="stroke-danger" strokeWidth={4} />
      )}
    </>
  );
}

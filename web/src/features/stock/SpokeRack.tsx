import { t as say } from "@lingui/core/macro";
import type { Schemas } from "@/api/client";
import { useRoom } from "@/strip/useRoom";
import { figure } from "@/ui/number";

interface SpokeRackProps {
  parts: readonly Schemas["StockPart"][];
  selected: string;
  onSelect: (id: string) => void;
}

const HEIGHT = 190;
const FLOOR = 150;
const SLOT = 30;

/** The rack of spokes: tubes stand by length, filled as high as there are spokes; what is reserved is drawn hollow on top. */
export function SpokeRack({ parts, selected, onSelect }: SpokeRackProps) {
  const [ref, { width }] = useRoom();
  const sorted = [...parts].sort((a, b) => lengthOf(a) - lengthOf(b) || a.name.localeCompare(b.name));
  const most = Math.max(20, ...sorted.map((p) => Math.max(p.on_hand, p.minimum)));
  const y = (count: number) => FLOOR - (Math.max(0, count) / most) * (FLOOR - 26);
  const step = Math.max(SLOT + 6, 48, Math.min(84, width / Math.max(1, sorted.length)));
  return (
    <div ref={ref} className="overflow-x-auto">
      <div className="relative" style={{ width: Math.max(width, step * sorted.length), height: HEIGHT }}>
        {sorted.map((part, i) => {
          const claimed = part.claims.reduce((n, c) => n + c.covered, 0);
          const on = part.id === selected;
          const label = say`${part.name}: ${part.on_hand} there, ${part.free} free`;
          return (
            <button
              key={part.id}
              type="button"
              aria-pressed={on}
              title={label}
              onClick={() => onSelect(part.id)}
              className={`absolute top-0 rounded-sm ${on ? "bg-signal" : ""}`}
              style={{ left: i * step, width: step - 4, height: HEIGHT }}
            >
              <span className="sr-only">{label}</span>
              <svg viewBox={`0 0 ${step - 4} ${HEIGHT}`} width={step - 4} height={HEIGHT} aria-hidden="true">
                <g transform={`translate(${(step - 4 - SLOT) / 2} 0)`}>
                  <rect
                    x={0}
                    y={20}
                    width={SLOT}
                    height={FLOOR - 20}
                    className={
                      part.free < part.minimum ? "fill-plate stroke-danger" : "fill-plate stroke-line-strong"
                    }
                    strokeWidth={part.free < part.minimum ? 3 : 1}
                  />
                  <rect
                    x={3}
                    y={y(part.on_hand)}
                    width={SLOT - 6}
                    height={FLOOR - y(part.on_hand)}
                    className="fill-face stroke-ink"
                    strokeWidth={2}
                  />
                  <rect
                    x={3}
                    y={y(part.on_hand - claimed)}
                    width={SLOT - 6}
                    height={FLOOR - y(part.on_hand - claimed)}
                    className={part.free < part.minimum ? "fill-danger" : "fill-ink"}
                  />
                  {part.minimum > 0 && (
                    <path
                      d={`M-4 ${y(part.minimum)}h${SLOT + 8}`}
                      className="stroke-ink"
                      strokeWidth={2}
                      strokeDasharray="4 2"
                    />
                  )}
                  <text
                    x={SLOT / 2}
                    y={14}
                    textAnchor="middle"
                    className="fill-ink font-figure text-[14px] font-bold"
                  >
                    {part.on_hand}
                  </text>
                </g>
                <text
                  x={(step - 4) / 2}
                  y={168}
                  textAnchor="middle"
                  className="fill-ink font-figure text-[16px] font-bold"
                >
                  {lengthOf(part)}
                </text>
                <text x={(step - 4) / 2} y={184} textAnchor="middle" className="fill-ink text-[12px]">
                  {wireOf(part)}
                </text>
              </svg>
            </button>
          );
        })}
      </div>
    </div>
  );
}

function lengthOf(part: Schemas["StockPart"]): number {
  return Number(part.attributes["length_mm"]);
}

function wireOf(part: Schemas["StockPart"]): string {
  const { end_diameter_mm: ends, middle_diameter_mm: middle, blade_width_mm: blade } = part.attributes;
  const wire = blade
    ? "blade"
    : middle
      ? `${figure(Number(ends), 1)}/${figure(Number(middle), 1)}`
      : figure(Number(ends), 1);
  const colour = part.attributes["colour"];
  return typeof colour === "string" ? `${wire} ${colour}` : wire;
}

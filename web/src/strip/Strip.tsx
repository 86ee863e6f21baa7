import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { type KeyboardEvent, useRef } from "react";
import { type ForceUnit, shownForce, signed } from "@/ui/forces";
import { gutterLeft, GUTTER_RIGHT, xOf } from "./scale";
import type { Over } from "./looks";
import { TensionLane } from "./TensionLane";
import { TraceLane } from "./TraceLane";
import { TurnsLane } from "./TurnsLane";
import type { LaneName, Move, WheelState } from "./types";
import { useWidth } from "./useWidth";

interface StripProps {
  state: WheelState;
  unit: ForceUnit;
  lanes: Partial<Record<LaneName, number>>;
  selected: string;
  onSelect: (spoke: string) => void;
  /** Called when a column is pointed at; leave out where pointing must not change the spoke in work. */
  onPoint?: (spoke: string) => void;
  /** What lies over the state: as it was, as it would be. */
  over?: readonly Over[];
  moves?: readonly Move[];
}

const GAP = 6;
const NAMES = 24;

/** The rim cut at the valve and laid flat: every fault, its spokes and its turns stand in one column. */
export function Strip({
  state,
  unit,
  lanes,
  selected,
  onSelect,
  onPoint,
  over = [],
  moves = [],
}: StripProps) {
  const [frame, width] = useWidth();
  const group = useRef<SVGGElement>(null);
  const entries = (Object.entries(lanes) as [LaneName, number][]).filter(([, height]) => height > 0);
  const tops = new Map<LaneName, number>();
  let bottom = 0;
  for (const [name, height] of entries) {
    tops.set(name, bottom);
    bottom += height + GAP;
  }
  const total = bottom + NAMES;
  const count = state.spokes.length;
  const column = (width - gutterLeft(width) - GUTTER_RIGHT) / Math.max(1, count);

  const step = (event: KeyboardEvent, index: number) => {
    const by = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key];
    if (!by) return;
    event.preventDefault();
    const next = (index + by + count) % count;
    onSelect(state.spokes[next]?.name ?? selected);
    group.current?.querySelectorAll<SVGGElement>('[role="radio"]')[next]?.focus();
  };

  return (
    <div ref={frame} className="w-full">
      <svg
        width={width}
        height={total}
        className="block select-none"
        role="radiogroup"
        aria-label={say`Spokes round the rim, from the valve`}
      >
        <g aria-hidden="true">
          {state.spokes.map((s) => (
            <line
              key={s.name}
              x1={xOf(s.angle_deg, width)}
              x2={xOf(s.angle_deg, width)}
              y1={0}
              y2={bottom}
              className="stroke-line"
            />
          ))}
          {tops.has("lateral") && (
            <TraceLane
              which="lateral"
              {...{ state, over, width }}
              top={tops.get("lateral") ?? 0}
              height={lanes.lateral ?? 0}
            />
          )}
          {tops.has("radial") && (
            <TraceLane
              which="radial"
              {...{ state, over, width }}
              top={tops.get("radial") ?? 0}
              height={lanes.radial ?? 0}
            />
          )}
          {tops.has("tension") && (
            <TensionLane
              {...{ state, over, unit, width }}
              top={tops.get("tension") ?? 0}
              height={lanes.tension ?? 0}
            />
          )}
          {tops.has("turns") && (
            <TurnsLane {...{ state, moves, width }} top={tops.get("turns") ?? 0} height={lanes.turns ?? 0} />
          )}
          <path
            d={`M${gutterLeft(width)} 0v${bottom}M${width - GUTTER_RIGHT} 0v${bottom}`}
            className="stroke-ink"
            strokeWidth={1.5}
          />
          <text x={8} y={total - 8} className="fill-muted text-[11px]">
            <Trans>valve →</Trans>
          </text>
        </g>
        <g ref={group}>
          {state.spokes.map((spoke, i) => {
            const x = xOf(spoke.angle_deg, width);
            const on = spoke.name === selected;
            return (
              <g
                key={spoke.name}
                role="radio"
                aria-checked={on}
                aria-label={label(spoke, unit)}
                tabIndex={on ? 0 : -1}
                onClick={() => onSelect(spoke.name)}
                onPointerEnter={() => onPoint?.(spoke.name)}
                onKeyDown={(event) => step(event, i)}
                className="group cursor-pointer outline-none"
              >
                <rect
                  x={x - column / 2}
                  y={0}
                  width={column}
                  height={total}
                  className={
                    on
                      ? "fill-signal opacity-25"
                      : "fill-transparent group-hover:fill-signal group-hover:opacity-10"
                  }
                />
                {on && (
                  <rect
                    x={x - Math.max(column / 2, 14)}
                    y={total - NAMES + 2}
                    width={Math.max(column, 28)}
                    height={NAMES - 3}
                    rx={3}
                    className="fill-signal stroke-ink group-focus-visible:stroke-2"
                  />
                )}
                <text
                  x={x}
                  y={total - 8}
                  textAnchor="middle"
                  className={`font-figure ${column < 24 ? "text-[10px]" : "text-[12px]"} ${on ? "fill-signal-ink font-bold" : "fill-ink"}`}
                >
                  {column < 15 && i % 2 && !on ? "" : spoke.name}
                </text>
              </g>
            );
          })}
        </g>
      </svg>
    </div>
  );
}

function label(spoke: WheelState["spokes"][number], unit: ForceUnit): string {
  const how = spoke.broken ? say`broken` : spoke.measured_n === null ? say`estimated` : say`measured`;
  return say`${spoke.name}: ${shownForce(spoke.tension_n, unit)} ${unit} ${how}, lateral ${signed(spoke.lateral_mm, 2)} mm, radial ${signed(spoke.radial_mm, 2)} mm`;
}

import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { type KeyboardEvent, memo, useEffect, useRef, useState } from "react";
import { type ForceUnit, shownForce, signed } from "@/ui/forces";
import { gutterLeft, GUTTER_RIGHT, plotWidth, xOf } from "./scale";
import type { Over } from "./looks";
import { TensionLabels, TensionLane } from "./TensionLane";
import { TraceLabels, TraceLane } from "./TraceLane";
import { TurnsLabels, TurnsLane } from "./TurnsLane";
import type { LaneName, Move, WheelState } from "./types";
import { useRoom } from "./useRoom";
import { Whole } from "./Whole";

interface StripProps {
  state: WheelState;
  unit: ForceUnit;
  /** The least height of each lane; where the place is higher, all grow alike. */
  lanes: Partial<Record<LaneName, number>>;
  selected: string;
  onSelect: (spoke: string) => void;
  /** Called when a column is pointed at; leave out where pointing must not change the spoke in work. */
  onPoint?: (spoke: string) => void;
  /** What lies over the state: as it was, as it would be. */
  over?: readonly Over[];
  moves?: readonly Move[];
}

// The same each time: a lane that is given what it was given before is not drawn anew.
const NOTHING_OVER: readonly Over[] = [];
const NO_MOVES: readonly Move[] = [];
const GAP = 6;
const NAMES = 28;
const WHOLE = 52;
/** No lane gets so high that a millimetre looks like a buckle. */
const MOST = 2.6;

/**
 * The rim cut at the valve and laid flat: every fault, its spokes and its turns stand in one column. It is drawn anew only
 * where what it is given has changed: it is the dearest of all that a key redraws.
 */
export const Strip = memo(function Strip({
  state,
  unit,
  lanes,
  selected,
  onSelect,
  onPoint,
  over = NOTHING_OVER,
  moves = NO_MOVES,
}: StripProps) {
  const [frame, room] = useRoom();
  const gutter = gutterLeft(room.width);
  const count = state.spokes.length;
  const plot = plotWidth(room.width, count);
  const seen = room.width - gutter;
  const windowed = plot + GUTTER_RIGHT > seen + 1;
  const column = plot / Math.max(1, count);
  const at = state.spokes.findIndex((s) => s.name === selected);
  // Where names stand too close, every second one is left out, and what would run into the one in work.
  const named = (i: number) =>
    i === at || column >= 30 || ((column >= 26 || i % 2 === 0) && Math.abs(i - at) !== 1);

  const entries = (Object.entries(lanes) as [LaneName, number][]).filter(([, height]) => height > 0);
  const least = entries.reduce((sum, [, height]) => sum + height, 0);
  const beside = entries.length * GAP + NAMES + (windowed ? WHOLE : 0);
  const grown = Math.min(MOST, Math.max(1, (room.height - beside) / Math.max(1, least)));
  const places = new Map<LaneName, { top: number; height: number }>();
  let bottom = 0;
  for (const [name, height] of entries) {
    places.set(name, { top: bottom, height: height * grown });
    bottom += height * grown + GAP;
  }
  const total = Math.round(bottom) + NAMES;

  const { view, from, goTo } = useWindow(windowed, plot, seen, state, selected);
  const group = useRef<SVGGElement>(null);
  const step = (event: KeyboardEvent) => {
    const by = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key];
    const name = (event.target as Element).getAttribute("data-spoke");
    const index = state.spokes.findIndex((s) => s.name === name);
    if (!by || index < 0) return;
    event.preventDefault();
    const next = (index + by + count) % count;
    onSelect(state.spokes[next]?.name ?? selected);
    group.current?.querySelectorAll<SVGGElement>('[role="radio"]')[next]?.focus({ preventScroll: true });
  };
  const traces = (["lateral", "radial"] as const).flatMap((which) => {
    const place = places.get(which);
    return place ? [{ which, place }] : [];
  });
  const tension = places.get("tension");
  const turns = places.get("turns");

  return (
    <div ref={frame} className="relative w-full grow" style={{ minHeight: least + beside }}>
      <div className="absolute inset-0">
        {windowed && (
          <div style={{ marginLeft: gutter, height: WHOLE }}>
            <Whole
              state={state}
              width={seen}
              selected={selected}
              from={from / plot}
              share={Math.min(1, seen / plot)}
              onGo={goTo}
            />
          </div>
        )}
        <div className="flex">
          <svg
            width={gutter}
            height={total}
            viewBox={`${-gutter} 0 ${gutter} ${total}`}
            aria-hidden="true"
            className="shrink-0"
          >
            {traces.map(({ which, place }) => (
              <TraceLabels key={which} {...{ which, state, over, gutter }} {...place} />
            ))}
            {tension && <TensionLabels {...{ state, over, unit, gutter }} {...tension} />}
            {turns && <TurnsLabels gutter={gutter} {...turns} />}
            <text x={-8} y={total - 9} textAnchor="end" className="fill-muted text-[12px]">
              <Trans>valve →</Trans>
            </text>
          </svg>
          <div
            ref={view}
            className={
              windowed ? "min-w-0 flex-1 overflow-x-auto overflow-y-hidden overscroll-x-contain" : "flex-1"
            }
          >
            <svg
              width={plot + GUTTER_RIGHT}
              height={total}
              className="block select-none"
              role="radiogroup"
              aria-label={say`Spokes round the rim, from the valve`}
            >
              <g aria-hidden="true">
                {state.spokes.map((s) => (
                  <line
                    key={s.name}
                    x1={xOf(s.angle_deg, plot)}
                    x2={xOf(s.angle_deg, plot)}
                    y1={0}
                    y2={bottom}
                    className="stroke-line"
                  />
                ))}
                {traces.map(({ which, place }) => (
                  <TraceLane key={which} {...{ which, state, over }} width={plot} {...place} />
                ))}
                {tension && <TensionLane {...{ state, over, unit }} width={plot} {...tension} />}
                {turns && <TurnsLane {...{ state, moves }} width={plot} {...turns} />}
                <path d={`M0.75 0v${bottom}M${plot} 0v${bottom}`} className="stroke-ink" strokeWidth={1.5} />
              </g>
              <g ref={group} onKeyDown={step}>
                {state.spokes.map((spoke, i) => (
                  <Column
                    key={spoke.name}
                    spoke={spoke}
                    text={named(i) ? spoke.name : ""}
                    on={spoke.name === selected}
                    x={xOf(spoke.angle_deg, plot)}
                    width={column}
                    height={total}
                    unit={unit}
                    onSelect={onSelect}
                    onPoint={onPoint}
                  />
                ))}
              </g>
            </svg>
          </div>
        </div>
      </div>
    </div>
  );
});

interface ColumnProps {
  spoke: WheelState["spokes"][number];
  text: string;
  on: boolean;
  x: number;
  width: number;
  height: number;
  unit: ForceUnit;
  onSelect: (spoke: string) => void;
  onPoint: ((spoke: string) => void) | undefined;
}

/** One spoke's column, from the top to its name: what is pressed, and what a reader of screens hears. */
const Column = memo(function Column(props: ColumnProps) {
  const { spoke, text, on, x, width, height, unit, onSelect, onPoint } = props;
  return (
    <g
      role="radio"
      aria-checked={on}
      aria-label={label(spoke, unit)}
      data-spoke={spoke.name}
      tabIndex={on ? 0 : -1}
      onClick={() => onSelect(spoke.name)}
      onPointerEnter={(event) => event.pointerType !== "touch" && onPoint?.(spoke.name)}
      className="group cursor-pointer outline-none"
    >
      <rect
        x={x - width / 2}
        y={0}
        width={width}
        height={height}
        className={
          on ? "fill-signal opacity-25" : "fill-transparent group-hover:fill-signal group-hover:opacity-10"
        }
      />
      {on && (
        <rect
          x={x - Math.max(width / 2, 15)}
          y={height - NAMES + 3}
          width={Math.max(width, 30)}
          height={NAMES - 5}
          rx={3}
          className="fill-signal stroke-ink group-focus-visible:stroke-2"
        />
      )}
      <text
        x={x}
        y={height - 9}
        textAnchor="middle"
        className={`font-figure ${width < 34 ? "text-[12px]" : "text-[14px]"} ${on ? "fill-signal-ink font-bold" : "fill-ink"}`}
      >
        {text}
      </text>
    </g>
  );
});

/** The window of a small screen: it follows the spoke in work, and a finger that moves it. */
function useWindow(windowed: boolean, plot: number, seen: number, state: WheelState, selected: string) {
  const view = useRef<HTMLDivElement>(null);
  const [from, setFrom] = useState(0);
  const angle = state.spokes.find((s) => s.name === selected)?.angle_deg;
  const goTo = (middle: number) => view.current?.scrollTo({ left: middle * plot - seen / 2 });
  useEffect(() => {
    const element = view.current;
    if (!element || !windowed) return;
    const follow = () => setFrom(element.scrollLeft);
    element.addEventListener("scroll", follow, { passive: true });
    return () => element.removeEventListener("scroll", follow);
  }, [windowed]);
  useEffect(() => {
    if (windowed && angle !== undefined) view.current?.scrollTo({ left: (angle / 360) * plot - seen / 2 });
  }, [windowed, angle, plot, seen]);
  return { view, from, goTo };
}

function label(spoke: WheelState["spokes"][number], unit: ForceUnit): string {
  const how = spoke.broken ? say`broken` : spoke.measured_n === null ? say`estimated` : say`measured`;
  return say`${spoke.name}: ${shownForce(spoke.tension_n, unit)} ${unit} ${how}, lateral ${signed(spoke.lateral_mm, 2)} mm, radial ${signed(spoke.radial_mm, 2)} mm`;
}

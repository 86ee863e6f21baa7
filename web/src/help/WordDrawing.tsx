import type { ReactNode } from "react";
import type { Sketch } from "./glossary";

/** Where the tool goes, or what the word names: line drawings of one hand. */
export function WordDrawing({ of }: { of: Sketch }) {
  return (
    <svg
      viewBox="0 0 200 120"
      className="h-32 w-56 shrink-0 rounded-sm bg-sunk"
      fill="none"
      strokeLinecap="round"
      aria-hidden="true"
    >
      {SKETCHES[of]}
    </svg>
  );
}

const LINE = "stroke-ink";
const TOOL = "stroke-signal";
const THIN = "stroke-line-strong";

const dial = (x: number, y: number, dx: number, dy: number) => (
  <>
    <path d={`M${x} ${y}l${dx} ${dy}`} className={TOOL} strokeWidth={5} />
    <circle cx={x + dx * 1.9} cy={y + dy * 1.9} r={16} className="fill-plate stroke-ink" strokeWidth={3} />
    <path d={`M${x + dx * 1.9} ${y + dy * 1.9}l7 -9`} className={LINE} strokeWidth={3} />
  </>
);

const SKETCHES: Record<Sketch, ReactNode> = {
  tension: (
    <>
      <path d="M20 100L180 20" className={LINE} strokeWidth={4} />
      <path d="M60 30L140 110" className={THIN} strokeWidth={3} />
      <path d="M96 42l34 -17l16 32l-34 17z" className="fill-plate stroke-signal" strokeWidth={5} />
      <circle cx={121} cy={50} r={7} className={LINE} strokeWidth={3} />
    </>
  ),
  lateral: (
    <>
      <path d="M84 10q10 50 0 100h26q10 -50 0 -100z" className="fill-plate stroke-ink" strokeWidth={3} />
      {dial(118, 60, 20, 0)}
      <path d="M60 60h-30m8 -7l-8 7l8 7" className={THIN} strokeWidth={3} />
    </>
  ),
  radial: (
    <>
      <path d="M10 30q90 70 180 0" className={LINE} strokeWidth={9} />
      {dial(100, 70, 0, 13)}
      <path d="M100 8v30m-7 -8l7 8l7 -8" className={THIN} strokeWidth={3} />
    </>
  ),
  dish: (
    <>
      <path d="M20 100V58q80 -70 160 0v42" className={TOOL} strokeWidth={6} />
      <path d="M100 26v44" className={TOOL} strokeWidth={5} />
      <path d="M10 104h26M164 104h26" className={LINE} strokeWidth={9} />
      <path d="M82 76h36M92 76v36M108 76v36" className={LINE} strokeWidth={4} />
    </>
  ),
  spread: (
    <>
      <path d="M14 60h172" className={THIN} strokeWidth={2} strokeDasharray="6 5" />
      {[52, 66, 57, 63, 22, 60, 55, 68].map((y, i) => (
        <g key={i}>
          <path d={`M${26 + i * 21} 104V${y}`} className={y < 30 ? "stroke-danger" : LINE} strokeWidth={4} />
          <circle cx={26 + i * 21} cy={y} r={6} className={y < 30 ? "fill-danger" : "fill-ink"} />
        </g>
      ))}
    </>
  ),
  erd: (
    <>
      <circle cx={100} cy={60} r={52} className={LINE} strokeWidth={5} />
      <path d="M48 60h38M114 60h38" className={TOOL} strokeWidth={5} />
      <path d="M86 78h28m-28 -5v10m28 -10v10" className={THIN} strokeWidth={2.5} />
    </>
  ),
  old: (
    <>
      <path d="M50 60h100" className={LINE} strokeWidth={14} />
      <path d="M70 26v68M130 36v48" className={LINE} strokeWidth={6} />
      <path d="M46 46v28M154 46v28" className={LINE} strokeWidth={8} />
      <path d="M42 24v84M158 24v84M42 104h116" className={TOOL} strokeWidth={4} />
    </>
  ),
  flange: (
    <>
      <path d="M40 60h120" className={LINE} strokeWidth={10} />
      <path d="M76 18v84" className={LINE} strokeWidth={8} />
      <path d="M76 18h-46M36 18v34" className={TOOL} strokeWidth={4} />
      <path d="M100 108v-90" className={THIN} strokeWidth={2} strokeDasharray="6 5" />
      <path d="M76 104h24m-24 -5v10m24 -10v10" className={THIN} strokeWidth={2.5} />
    </>
  ),
  twist: (
    <>
      <path d="M20 60h130" className={LINE} strokeWidth={5} />
      <path d="M150 50h26v20h-26z" className="fill-plate stroke-ink" strokeWidth={3} />
      <path d="M163 38a24 24 0 0 1 18 30m3 -10l-3 10l-9 -4" className={TOOL} strokeWidth={4} />
      <path d="M80 44a18 18 0 0 1 12 22m4 -8l-4 8l-8 -3" className={THIN} strokeWidth={3} />
    </>
  ),
  cross: (
    <>
      <path d="M10 24q90 -30 180 0" className={LINE} strokeWidth={6} />
      <circle cx={100} cy={100} r={13} className={LINE} strokeWidth={4} />
      <path d="M88 96L140 14" className={LINE} strokeWidth={4} />
      <path d="M112 96L88 58M84 52L60 14" className={TOOL} strokeWidth={4} />
    </>
  ),
  valve: (
    <>
      <circle cx={100} cy={62} r={50} className={LINE} strokeWidth={5} />
      <path d="M100 4v16" className={LINE} strokeWidth={7} />
      <path d="M108 14L103 56M122 18L97 66" className={THIN} strokeWidth={3} />
      <path d="M124 30a40 40 0 0 1 14 22m5 -9l-5 9l-9 -4" className={TOOL} strokeWidth={4} />
    </>
  ),
  arc: (
    <>
      <path d="M10 60h50q40 -64 80 0h50" className={LINE} strokeWidth={5} />
      <path d="M10 60h180" className={THIN} strokeWidth={2} strokeDasharray="6 5" />
      <path d="M66 84h68m-60 -6l-8 6l8 6m52 -12l8 6l-8 6" className={TOOL} strokeWidth={3} />
    </>
  ),
};

import { t as say } from "@lingui/core/macro";
import { Fraction } from "@/ui/Fraction";
import { turnsText } from "./turns";

/** One nipple to be read at arm's length: which, which way, how far. Zero turns: leave it. */
export function NippleFace({ spoke, turns }: { spoke: string; turns: number }) {
  const tighten = turns > 0;
  return (
    <div className="flex flex-wrap items-center gap-x-5 xl:gap-x-7">
      <p className="font-figure text-[5.5rem] leading-none font-bold">{spoke}</p>
      <svg viewBox="0 0 40 40" className="size-16" aria-hidden="true">
        {turns === 0 ? (
          <path d="M6 20h28" className="stroke-ink" strokeWidth={5} />
        ) : (
          <path
            d={tighten ? "M4 34h32L20 6z" : "M4 6h32L20 34z"}
            className={tighten ? "fill-ink stroke-ink" : "fill-plate stroke-ink"}
            strokeWidth={4}
            strokeLinejoin="round"
          />
        )}
      </svg>
      <div className="whitespace-nowrap">
        <p className="text-4xl font-bold">{turns === 0 ? say`leave` : tighten ? say`tighten` : say`ease`}</p>
        <p className="text-muted">
          {turns === 0
            ? say`as it is`
            : say`${tighten ? say`clockwise` : say`anticlockwise`}, seen from the tyre`}
        </p>
      </div>
      <p className="text-[4.75rem] leading-none font-bold">
        <Fraction text={turnsText(turns)} />
      </p>
      <p className="text-xl text-muted">{Math.abs(turns) === 1 ? "turn" : say`of a turn`}</p>
    </div>
  );
}

import { t as say } from "@lingui/core/macro";
import { Fraction } from "@/ui/Fraction";
import { turnsText } from "./turns";

/** One nipple to be read at arm's length: which, which way, how far. Zero turns: leave it. */
export function NippleFace({ spoke, turns }: { spoke: string; turns: number }) {
  const tighten = turns > 0;
  return (
    <div className="flex flex-wrap items-center gap-x-5 xl:gap-x-7 max-sm:flex-nowrap max-sm:gap-x-2">
      <p className="font-figure text-[5.5rem] leading-none font-bold low:text-[4.25rem] max-sm:text-[3.25rem]">
        {spoke}
      </p>
      <svg viewBox="0 0 40 40" className="size-16 low:size-12 max-sm:size-10" aria-hidden="true">
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
      <div className="whitespace-nowrap max-sm:min-w-0 max-sm:flex-1 max-sm:whitespace-normal">
        <p className="text-4xl font-bold max-sm:text-2xl">
          {turns === 0 ? say`leave` : tighten ? say`tighten` : say`ease`}
        </p>
        <p className="text-muted max-sm:text-sm">
          {turns === 0
            ? say`as it is`
            : say`${tighten ? say`clockwise` : say`anticlockwise`}, seen from the tyre`}
        </p>
      </div>
      <div className="flex items-center gap-x-5 max-sm:flex-col">
        <p className="text-[4.75rem] leading-none low:text-[3.5rem] max-sm:text-[2.75rem] font-bold">
          <Fraction text={turnsText(turns)} />
        </p>
        <p className="text-xl text-muted max-sm:text-sm max-sm:whitespace-nowrap">
          {Math.abs(turns) === 1 ? "turn" : say`of a turn`}
        </p>
      </div>
    </div>
  );
}

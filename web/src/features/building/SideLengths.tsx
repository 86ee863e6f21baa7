import { crossingsWord } from "@/ui/words";
import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "@/api/client";
import { sentenceOf } from "@/api/problem";
import { Notice } from "@/ui/Notice";
import { classes } from "@/ui/classes";
import { NippleCut } from "./NippleCut";
import { Offers } from "./Offers";
import { type Sizing, type SizingSide, useSizing } from "./useSizing";
import { verdictOf, dimensionName, sideName } from "./words";
import { figure } from "@/ui/number";

/** From here on a length is a guess: core.spokes.fit. */
const GUESS_SD_MM = 1;

interface SideLengthsProps {
  job: Schemas["Job"];
  sizing: Sizing;
  side: SizingSide;
  writes: ReturnType<typeof useSizing>;
}

/** One side: what it needs, each length in its nipple to scale, and the bins that have it. */
export function SideLengths({ job, sizing, side, writes }: SideLengthsProps) {
  const closed = Boolean(job.handed_back_at);
  const worst = side.shares[0];
  const asked = writes.choose.asked;
  const refused = writes.choose.error && asked?.side === side.side;
  return (
    <section
      aria-label={side.side === "R" ? say`Right spokes` : say`Left spokes`}
      className="flex flex-col gap-2 border-t border-line pt-3"
    >
      <div className="flex flex-wrap items-baseline gap-x-5 gap-y-1">
        <h2 className="w-24 text-xl">{sideName(side.side)}</h2>
        <p>
          {side.sd_mm < GUESS_SD_MM ? (
            <span className="font-figure text-3xl font-bold">{figure(side.needed_mm, 1)}</span>
          ) : (
            <span className="font-figure text-lg">
              <Trans>about {figure(side.needed_mm, 0)}</Trans>
            </span>
          )}
          <span className="text-muted">
            <Trans> ± {figure(side.sd_mm, 1)} mm to the slot&rsquo;s bottom</Trans>
          </span>
          {side.sd_mm >= GUESS_SD_MM && (
            <strong className="ml-2">
              <Trans>A guess: measure the ERD, or hold an old spoke to the ruler.</Trans>
            </strong>
          )}
        </p>
        <p className="text-sm text-muted">
          <Trans>
            stretch {figure(side.stretch_mm, 1)} · {side.count} of {side.wire},{" "}
            {crossingsWord(side.crossings)} · {side.places} to place
            {worst && worst.share > 0.4 && (
              <>
                <Trans>
                  {" "}
                  · {Math.round(worst.share * 100)} % of the doubt is the {dimensionName(worst.field)}
                </Trans>
              </>
            )}
          </Trans>
        </p>
      </div>
      <div
        role="radiogroup"
        aria-label={say`Length, ${side.side === "R" ? say`right` : say`left`}`}
        className="flex items-start gap-1 max-lg:flex-wrap"
      >
        {side.candidates.map((c) => {
          const chosen = side.chosen?.length_mm === c.length_mm;
          const proposed = side.rounded_mm === c.length_mm;
          return (
            <button
              key={figure(c.length_mm)}
              type="button"
              role="radio"
              aria-checked={chosen}
              disabled={closed}
              title={c.why}
              onClick={() =>
                writes.choose.go({
                  side: side.side,
                  length_mm: c.length_mm,
                  part: binOf(side, c.length_mm),
                })
              }
              className={classes(
                "flex w-[92px] flex-col items-center rounded-sm border px-1 pt-1 pb-2",
                chosen ? "border-2 border-ink bg-signal text-signal-ink" : "border-line bg-plate",
              )}
            >
              <span className={classes("font-figure text-xl", (chosen || proposed) && "font-bold")}>
                {figure(c.length_mm)}
                {proposed && !chosen && (
                  <span className="sr-only">
                    <Trans>, proposed</Trans>
                  </span>
                )}
              </span>
              <NippleCut nipple={sizing.nipple} end_mm={c.end_mm} usable={c.usable} />
              <span className={classes("text-sm", !c.usable && !chosen && "font-bold text-danger")}>
                {verdictOf(c)}
              </span>
              <span className="text-xs">
                {proposed ? say`proposed` : say`holds: ${Math.round(c.chance * 100)} %`}
              </span>
            </button>
          );
        })}
        <Offers side={side} writes={writes} closed={closed} />
      </div>
      {refused && <Notice kind="refusal">{sentenceOf(writes.choose.error)}</Notice>}
    </section>
  );
}

/** The bin that serves a length: as it is, else cut to it. */
function binOf(side: SizingSide, length: number): string | null {
  return side.offers.find((o) => o.fit.length_mm === length)?.key ?? null;
}

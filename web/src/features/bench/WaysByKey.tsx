import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { type KeyboardEvent, useEffect, useRef } from "react";
import { useKeptFocus } from "@/ui/useKeptFocus";
import type { KeyedWay } from "./keyedWays";

interface WaysByKeyProps {
  /** What each digit does, from 1 on; 0 is the last. */
  ways: readonly KeyedWay[];
  onMode: (by: 1 | -1) => void;
}

/** All other ways to read by the ten keys: a digit chooses, * and / leave. */
export function WaysByKey({ ways, onMode }: WaysByKeyProps) {
  const list = useRef<HTMLDivElement>(null);
  useEffect(() => list.current?.focus(), []);
  useKeptFocus(list);
  const digit = (at: number) => String((at + 1) % 10);
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.repeat) return;
    const at = ways.findIndex((_, i) => digit(i) === event.key);
    if (at >= 0) ways[at]?.go();
    else if (event.key === "*" || event.key === "Enter") onMode(1);
    else if (event.key === "/" || event.key === "Backspace") onMode(-1);
    else return;
    event.preventDefault();
  };
  return (
    <div ref={list} tabIndex={0} role="group" aria-label={say`Other ways, by digit`} onKeyDown={onKeyDown}>
      <ol className="grid grid-cols-2 gap-x-6 low:grid-cols-3 low:gap-x-2 max-sm:gap-x-1">
        {ways.map((way, at) => (
          <li key={way.text}>
            <button
              type="button"
              onClick={way.go}
              aria-pressed={way.now ?? false}
              className={`flex min-h-12 w-full items-center gap-3 rounded-sm px-2 text-left text-lg low:text-base max-sm:gap-2 max-sm:px-1 max-sm:text-base max-sm:leading-tight ${way.now ? "bg-sunk font-bold" : ""}`}
            >
              <kbd className="min-w-8 rounded-sm border border-line-strong bg-plate text-center font-figure text-xl">
                {digit(at)}
              </kbd>
              {way.text}
            </button>
          </li>
        ))}
      </ol>
      <p className="pt-1 text-sm text-muted low:hidden max-sm:hidden">
        <Trans>A digit chooses; * and / leave.</Trans>
      </p>
    </div>
  );
}

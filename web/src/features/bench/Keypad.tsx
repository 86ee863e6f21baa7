import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
const KEYS = ["7", "8", "9", "4", "5", "6", "1", "2", "3", "−", "0", "."] as const;

interface KeypadProps {
  onKey: (key: string) => void;
}

/** The ten keys on the glass, for a hand without a keyboard. */
export function Keypad({ onKey }: KeypadProps) {
  const look = "min-h-13 rounded-sm border border-line-strong bg-plate font-figure text-2xl active:bg-signal";
  return (
    <div
      className="grid w-72 shrink-0 grid-cols-4 gap-1.5 max-sm:w-full"
      role="group"
      aria-label={say`Number keys`}
    >
      <div className="col-span-3 grid grid-cols-3 gap-1.5">
        {KEYS.map((key) => (
          <button
            key={key}
            type="button"
            tabIndex={-1}
            className={look}
            aria-label={key === "−" ? say`minus` : key === "." ? say`point` : key}
            onPointerDown={(event) => event.preventDefault()}
            onClick={() => onKey(key === "−" ? "-" : key)}
          >
            {key}
          </button>
        ))}
      </div>
      <div className="grid grid-rows-[1fr_1fr_2.1fr] gap-1.5">
        <button
          type="button"
          tabIndex={-1}
          className={`${look} text-base`}
          aria-label={say`Delete, or back one spoke`}
          onPointerDown={(event) => event.preventDefault()}
          onClick={() => onKey("Backspace")}
        >
          ⌫
        </button>
        <button
          type="button"
          tabIndex={-1}
          className={look}
          aria-label={say`+½, half a step up`}
          onPointerDown={(event) => event.preventDefault()}
          onClick={() => onKey("+")}
        >
          +½
        </button>
        <button
          type="button"
          tabIndex={-1}
          className="rounded-sm bg-signal text-lg font-bold text-signal-ink"
          onPointerDown={(event) => event.preventDefault()}
          onClick={() => onKey("Enter")}
        >
          <Trans>Record</Trans>
        </button>
      </div>
    </div>
  );
}

import { t as say } from "@lingui/core/macro";
import { figure } from "@/ui/number";
import { wrongIn } from "@/ui/number";
import { useId } from "react";

interface SectionFieldProps {
  label: string;
  unit?: string;
  value: string;
  error: string | undefined;
  onChange: (value: string) => void;
  help: string;
  /** Place on the drawing, in percent of it. */
  left: number;
  top: number;
  width?: number;
  /** Standard deviation as typed, and as it is taken where nothing was typed. */
  sd?: { value: string; usual: number | undefined; onChange: (value: string) => void };
  /** Why this should be looked at again. */
  doubt?: string | undefined;
  onMeasure?: () => void;
}

/** A dimension at its own place on the cross-section. */
export function SectionField({
  label,
  unit = "mm",
  value,
  error,
  onChange,
  help,
  left,
  top,
  width = 92,
  sd,
  doubt,
  onMeasure,
}: SectionFieldProps) {
  const id = useId();
  const wrong = error ?? wrongIn(value);
  return (
    <div
      className="absolute -translate-x-1/2 -translate-y-1/2 @max-[43rem]:static @max-[43rem]:translate-none"
      style={{ left: `${left}%`, top: `${top}%` }}
    >
      <label
        htmlFor={id}
        className="block text-center text-xs font-bold whitespace-nowrap @max-[43rem]:text-left @max-[43rem]:text-sm"
      >
        {label}
      </label>
      <span className="flex items-baseline justify-center gap-1 @max-[43rem]:justify-start">
        <input
          id={id}
          inputMode="decimal"
          value={value}
          title={help}
          aria-describedby={`${id}-note`}
          aria-invalid={Boolean(wrong)}
          onChange={(event) => onChange(event.target.value)}
          style={{ width }}
          className="min-h-11 rounded-sm border border-line-strong bg-plate px-2 text-right font-figure text-lg aria-invalid:border-2 aria-invalid:border-danger"
        />
        {sd ? (
          <span className="flex items-baseline text-xs text-muted">
            ±
            <input
              aria-label={say`${label}, uncertainty, mm`}
              inputMode="decimal"
              value={sd.value}
              {...(sd.usual === undefined ? {} : { placeholder: figure(sd.usual) })}
              title={say`How well it is known, one standard deviation, mm. Empty: as usual for how it was measured.`}
              onChange={(event) => sd.onChange(event.target.value)}
              className="min-h-11 w-11 border-b border-line-strong bg-transparent text-center font-figure placeholder:text-muted"
            />
          </span>
        ) : (
          <span className="text-xs text-muted">{unit}</span>
        )}
        {onMeasure && (
          <button
            type="button"
            aria-label={say`Measure: ${label}`}
            title={say`How to measure it`}
            onClick={onMeasure}
            className="min-h-11 min-w-11 rounded-sm border border-line bg-face text-lg"
          >
            <svg
              viewBox="0 0 24 24"
              className="mx-auto size-6"
              fill="none"
              stroke="currentColor"
              aria-hidden="true"
            >
              <path
                d="M4 6h16M7 6v10l-2 -3v-7M17 6v10l2 -3v-7M9 11h6M9 11l2 -2m-2 2l2 2M15 11l-2 -2m2 2l-2 2"
                strokeWidth={1.6}
              />
            </svg>
          </button>
        )}
      </span>
      <p
        id={`${id}-note`}
        className={
          error
            ? "w-56 rounded-sm bg-danger-soft px-1 text-xs font-bold text-danger"
            : doubt
              ? "absolute z-10 w-52 rounded-sm border-l-4 border-danger bg-plate px-1 text-xs"
              : "sr-only"
        }
      >
        {wrong ?? doubt ?? help}
      </p>
    </div>
  );
}

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
}: SectionFieldProps) {
  const id = useId();
  return (
    <div className="absolute -translate-x-1/2 -translate-y-1/2" style={{ left: `${left}%`, top: `${top}%` }}>
      <label htmlFor={id} className="block text-center text-xs font-bold whitespace-nowrap">
        {label}
      </label>
      <span className="flex items-baseline justify-center gap-1">
        <input
          id={id}
          inputMode="decimal"
          value={value}
          title={help}
          aria-describedby={`${id}-note`}
          aria-invalid={Boolean(error)}
          onChange={(event) => onChange(event.target.value)}
          style={{ width }}
          className="min-h-11 rounded-sm border border-line-strong bg-plate px-2 text-right font-figure text-lg aria-invalid:border-2 aria-invalid:border-danger"
        />
        <span className="text-xs text-muted">{unit}</span>
      </span>
      <p
        id={`${id}-note`}
        className={error ? "w-56 rounded-sm bg-danger-soft px-1 text-xs font-bold text-danger" : "sr-only"}
      >
        {error ?? help}
      </p>
    </div>
  );
}

import { type InputHTMLAttributes, type ReactNode, type TextareaHTMLAttributes, useId } from "react";
import { classes } from "./classes";

interface FieldFrameProps {
  label: string;
  help?: ReactNode;
  error?: string | undefined;
  children: (ids: { id: string; "aria-describedby": string; "aria-invalid": boolean }) => ReactNode;
  className?: string | undefined;
  bare?: boolean | undefined;
}

/** Label above, help and the refusal below, tied together for screen readers. */
export function FieldFrame({ label, help, error, children, className, bare }: FieldFrameProps) {
  const id = useId();
  return (
    <div className={classes("flex flex-col gap-1", className)}>
      <label htmlFor={id} className={bare ? "sr-only" : "text-sm font-bold"}>
        {label}
      </label>
      {children({ id, "aria-describedby": `${id}-note`, "aria-invalid": Boolean(error) })}
      <p
        id={`${id}-note`}
        className={classes(
          bare && !error && "sr-only",
          "text-sm",
          error ? "font-bold text-danger" : "text-muted",
        )}
      >
        {error ?? help}
      </p>
    </div>
  );
}

export const BOX =
  "min-h-12 w-full rounded-sm border bg-plate px-3 text-base aria-invalid:border-danger border-line-strong";

interface TextFieldProps extends Omit<InputHTMLAttributes<HTMLInputElement>, "onChange"> {
  label: string;
  help?: ReactNode;
  error?: string | undefined;
  onChange: (value: string) => void;
}

export function TextField({ label, help, error, onChange, className, ...rest }: TextFieldProps) {
  return (
    <FieldFrame label={label} help={help} error={error} className={className}>
      {(ids) => <input {...ids} {...rest} className={BOX} onChange={(e) => onChange(e.target.value)} />}
    </FieldFrame>
  );
}

interface LinesFieldProps extends Omit<TextareaHTMLAttributes<HTMLTextAreaElement>, "onChange"> {
  label: string;
  help?: ReactNode;
  error?: string | undefined;
  onChange: (value: string) => void;
}

/** Text of some lines. */
export function LinesField({ label, help, error, onChange, className, ...rest }: LinesFieldProps) {
  return (
    <FieldFrame label={label} help={help} error={error} className={className}>
      {(ids) => (
        <textarea
          rows={2}
          {...ids}
          {...rest}
          className={classes(BOX, "py-2")}
          onChange={(e) => onChange(e.target.value)}
        />
      )}
    </FieldFrame>
  );
}

interface PickFieldProps {
  label: string;
  help?: ReactNode;
  error?: string | undefined;
  value: string;
  options: readonly { value: string; text: string }[];
  onChange: (value: string) => void;
  disabled?: boolean;
  className?: string;
  /** Only the box is shown; the label stays for those who do not see. */
  bare?: boolean;
}

/** The machine's own drop-down list: quickest by keyboard, and right on every tablet. */
export function PickField({
  label,
  help,
  error,
  value,
  options,
  onChange,
  disabled,
  className,
  bare,
}: PickFieldProps) {
  return (
    <FieldFrame label={label} help={help} error={error} className={className} bare={bare}>
      {(ids) => (
        <select
          {...ids}
          value={value}
          disabled={disabled}
          className={BOX}
          onChange={(e) => onChange(e.target.value)}
        >
          {options.map((o) => (
            <option key={o.value} value={o.value}>
              {o.text}
            </option>
          ))}
        </select>
      )}
    </FieldFrame>
  );
}

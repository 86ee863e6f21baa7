import { type InputHTMLAttributes, type ReactNode, useEffect, useRef, useState } from "react";
import { FieldFrame, BOX } from "./Field";
import { couldBeNumber, type Limits, wrongIn } from "./number";

interface NumberFieldProps
  extends Limits, Omit<InputHTMLAttributes<HTMLInputElement>, "onChange" | "value" | "min" | "max"> {
  label: string;
  value: string;
  onChange: (text: string) => void;
  help?: ReactNode;
  /** What the server or the form says against it. */
  error?: string | undefined;
  bare?: boolean;
}

/**
 * The one field for figures: comma or point, its unit and range named. A figure that cannot be read is said where it stands, and
 * its form does not go out: what was stored before is never erased by a slip.
 */
export function NumberField({
  label,
  value,
  onChange,
  help,
  error,
  min,
  max,
  whole,
  unit,
  className,
  bare,
  onBlur,
  ...rest
}: NumberFieldProps) {
  const input = useRef<HTMLInputElement>(null);
  const [left, setLeft] = useState(false);
  const wrong = wrongIn(value, { min, max, whole, unit });
  // While it is being typed only what can never become a figure is said.
  const shown = left || !couldBeNumber(value.trim()) ? wrong : undefined;
  useEffect(() => input.current?.setCustomValidity(wrong ?? ""), [wrong]);
  return (
    <FieldFrame label={label} help={help} error={shown ?? error} className={className} bare={bare}>
      {(ids) => (
        <input
          {...ids}
          {...rest}
          ref={input}
          inputMode={whole ? "numeric" : "decimal"}
          autoComplete="off"
          value={value}
          className={BOX}
          onChange={(e) => onChange(e.target.value)}
          onInvalid={() => setLeft(true)}
          onBlur={(e) => {
            setLeft(true);
            onBlur?.(e);
          }}
        />
      )}
    </FieldFrame>
  );
}

import { ToggleGroup } from "radix-ui";
import type { ReactNode } from "react";
import { classes } from "./classes";

interface ChoiceProps<T extends string> {
  label: string;
  value: T;
  options: readonly { value: T; text: ReactNode; hint?: string }[];
  onChange: (value: T) => void;
  small?: boolean;
  className?: string;
}

/** One of a few: a row of keys, the chosen one pressed in. */
export function Choice<T extends string>({
  label,
  value,
  options,
  onChange,
  small,
  className,
}: ChoiceProps<T>) {
  return (
    <ToggleGroup.Root
      type="single"
      aria-label={label}
      value={value}
      onValueChange={(next) => {
        if (next) onChange(next as T);
      }}
      className={classes("inline-flex self-start rounded-sm border border-line-strong bg-plate", className)}
    >
      {options.map((option) => (
        <ToggleGroup.Item
          key={option.value}
          value={option.value}
          title={option.hint}
          className={classes(
            "min-h-12 min-w-12 border-r border-line px-3 last:border-r-0 data-[state=on]:bg-ink data-[state=on]:font-bold data-[state=on]:text-face",
            small && "text-sm",
          )}
        >
          {option.text}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}

import { t as say } from "@lingui/core/macro";
import { TextField } from "@/ui/Field";
import type { Schemas } from "@/api/client";
import { daySpans, dayText, WEEKDAYS } from "./week";

/** A week as seven short fields: "9-12:30, 13:30-18"; empty is shut. */
export function WeekFields(props: {
  text: readonly string[];
  disabled: boolean;
  onChange: (text: string[]) => void;
  refused?: string | undefined;
}) {
  const { text, disabled, onChange, refused } = props;
  return (
    <div className="grid grid-cols-1 gap-x-4 sm:grid-cols-2">
      {WEEKDAYS.map((name, day) => (
        <TextField
          key={name}
          label={name}
          value={text[day] ?? ""}
          disabled={disabled}
          placeholder={say`shut`}
          onChange={(value) => onChange(text.map((old, i) => (i === day ? value : old)))}
          error={daySpans(text[day] ?? "", day) === null ? say`Write it as 9-12:30, 13:30-18` : undefined}
        />
      ))}
      {refused && <p className="text-sm font-bold text-danger sm:col-span-2">{refused}</p>}
    </div>
  );
}

export const weekText = (week: readonly Schemas["WeekSpan"][]) =>
  WEEKDAYS.map((_, day) => dayText(week, day));

/** All spans, or null where a day cannot be read. */
export function weekSpans(text: readonly string[]): Schemas["WeekSpan"][] | null {
  const days = text.map((day, i) => daySpans(day, i));
  return days.some((day) => day === null) ? null : days.flatMap((day) => day ?? []);
}

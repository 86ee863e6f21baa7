import { ToggleGroup } from "radix-ui";
import type { Schemas } from "@/api/client";

interface TagsProps {
  label: string;
  value: readonly Schemas["ComplaintTagsEnum"][];
  options: readonly Schemas["Complaint"][];
  onChange: (value: Schemas["ComplaintTagsEnum"][]) => void;
}

/** Quick tags: any of a few, each a key that stays pressed. */
export function Tags({ label, value, options, onChange }: TagsProps) {
  return (
    <ToggleGroup.Root
      type="multiple"
      aria-label={label}
      value={[...value]}
      onValueChange={(next) => onChange(next as Schemas["ComplaintTagsEnum"][])}
      className="flex flex-wrap gap-2"
    >
      {options.map((option) => (
        <ToggleGroup.Item
          key={option.key}
          value={option.key}
          className="min-h-12 rounded-sm border border-line-strong bg-plate px-3 data-[state=on]:bg-ink data-[state=on]:font-bold data-[state=on]:text-face"
        >
          {option.name}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}

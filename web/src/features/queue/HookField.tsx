import { t as say } from "@lingui/core/macro";
import { useQuery } from "@tanstack/react-query";
import { ask } from "@/api/queries";
import { PickField } from "@/ui/Field";

interface HookFieldProps {
  value: string;
  onChange: (hook: string) => void;
}

/** On which of the shop's hooks a wheel hangs. */
export function HookField({ value, onChange }: HookFieldProps) {
  const places = useQuery(ask.places());
  const hooks = (places.data ?? []).filter((p) => p.kind === "hook" && p.in_use);
  return (
    <PickField
      label={say`Hangs on hook`}
      value={value}
      onChange={onChange}
      options={[{ value: "", text: say`not said` }, ...hooks.map((p) => ({ value: p.id, text: p.name }))]}
    />
  );
}

import { t as say } from "@lingui/core/macro";
import type { Problem } from "@/api/problem";
import { TextField } from "@/ui/Field";

/** Asked for once the server says that truing makes no sense on this wheel; its sentence stands beside it. */
export function Despite({
  refused,
  value,
  onChange,
}: {
  refused: Problem | null;
  value: string;
  onChange: (value: string) => void;
}) {
  const asked = refused?.code === "in_vain" || (value !== "" && refused !== null);
  if (!asked) return null;
  return (
    <TextField
      label={say`Why it is planned all the same`}
      value={value}
      onChange={onChange}
      error={refused.code === "says_nothing" ? refused.message : undefined}
      maxLength={500}
    />
  );
}

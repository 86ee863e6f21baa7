import type { FieldPath, FieldValues, PathValue, UseFormReturn } from "react-hook-form";
import type { Problem } from "@/api/problem";

/**
 * Ties our fields to a form: value, change, and what is said against it, first by the form's own schema and then by the server
 * (`theirs` is what the server calls the field).
 */
export function fieldsOf<Values extends FieldValues>(
  form: UseFormReturn<Values>,
  values: Values,
  refused: Problem | null,
) {
  return <Name extends FieldPath<Values> & keyof Values & string>(name: Name, ...theirs: string[]) => ({
    value: values[name],
    onChange: (value: PathValue<Values, Name>) =>
      form.setValue(name, value, { shouldDirty: true, shouldValidate: form.formState.isSubmitted }),
    error:
      form.getFieldState(name, form.formState).error?.message ??
      [name, ...theirs].map((n) => refused?.for(n)).find(Boolean),
  });
}

/** Once the refusals stand at their fields: to the first of them, which may be out of sight. */
export function toFirstWrong(form: HTMLFormElement): void {
  requestAnimationFrame(() => form.querySelector<HTMLElement>('[aria-invalid="true"]')?.focus());
}

import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { zodResolver } from "@hookform/resolvers/zod";
import type { FormEvent } from "react";
import { useForm, useWatch } from "react-hook-form";
import type { Schemas } from "@/api/client";
import { Problem, sentenceOf } from "@/api/problem";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { PickField, TextField } from "@/ui/Field";
import { fieldsOf, toFirstWrong } from "@/ui/form";
import { Notice } from "@/ui/Notice";
import { NumberField } from "@/ui/NumberField";
import { word } from "@/ui/words";
import { attributesOf, NEW_PART, type NewPartForm, newPartSchema, partOf } from "./newPartForm";
import { useStock } from "./useStock";

interface NewPartProps {
  kinds: readonly Schemas["PartKind"][];
  onClose: () => void;
  onMade: (id: string) => void;
}

/** A new part with its bin; each dimension is refused at its own field. */
export function NewPart({ kinds, onClose, onMade }: NewPartProps) {
  const writes = useStock();
  const form = useForm<NewPartForm>({ resolver: zodResolver(newPartSchema(kinds)), defaultValues: NEW_PART });
  const said = { ...NEW_PART, ...useWatch({ control: form.control }) } as NewPartForm;
  const problem = writes.add.error instanceof Problem ? writes.add.error : null;
  const field = fieldsOf(form, said, problem);
  const attribute = (name: string) => ({
    value: said.attributes[name] ?? "",
    onChange: (text: string) =>
      form.setValue(
        "attributes",
        { ...form.getValues("attributes"), [name]: text },
        {
          shouldValidate: form.formState.isSubmitted,
        },
      ),
    error: form.formState.errors.attributes?.[name]?.message ?? problem?.for(name),
  });
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const fields = event.currentTarget;
    void form.handleSubmit(
      (whole) => writes.add.go(partOf(whole, kinds), (made) => onMade(made.id)),
      () => toFirstWrong(fields),
    )();
  };
  return (
    <Dialog open onOpenChange={onClose} title={say`A new part`}>
      <form noValidate className="grid grid-cols-2 gap-3" onSubmit={submit}>
        <PickField
          label={say`Kind`}
          {...field("kind")}
          options={kinds.map((k) => ({ value: k.key, text: k.name }))}
          onChange={(v) => form.setValue("kind", v as NewPartForm["kind"])}
        />
        <TextField label={say`Name`} {...field("name")} />
        <TextField label={say`Bin`} {...field("bin")} />
        <TextField label={say`Supplier`} {...field("supplier")} />
        <NumberField label={say`Keep at least`} whole min={0} {...field("minimum")} />
        <NumberField label={say`Sold in packs of`} whole min={1} {...field("pack")} />
        {attributesOf(kinds, said.kind).map((a) => {
          const label = a.label + (a.needed ? "" : say`, if known`);
          if (a.kind === "number") return <NumberField key={a.name} label={label} {...attribute(a.name)} />;
          if (a.kind === "text") return <TextField key={a.name} label={label} {...attribute(a.name)} />;
          const words = a.kind === "flag" ? ["yes", "no"] : a.words;
          return (
            <PickField
              key={a.name}
              label={label}
              {...attribute(a.name)}
              options={[
                { value: "", text: say`as usual` },
                ...words.map((w) => ({ value: w, text: word(w) })),
              ]}
            />
          );
        })}
        {problem && !problem.errors.some((e) => e.field !== "attributes") && (
          <div className="col-span-2">
            <Notice kind="refusal">{sentenceOf(problem)}</Notice>
          </div>
        )}
        <Button type="submit" weight="now" className="col-span-2" disabled={writes.add.pending}>
          <Trans>Keep it</Trans>
        </Button>
      </form>
    </Dialog>
  );
}

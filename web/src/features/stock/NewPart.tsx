import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { typedNumber } from "@/ui/number";
import { useState } from "react";
import type { Schemas } from "@/api/client";
import { Problem, sentenceOf } from "@/api/problem";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { PickField, TextField } from "@/ui/Field";
import { Notice } from "@/ui/Notice";
import { useStock } from "./useStock";

interface NewPartProps {
  kinds: readonly Schemas["PartKind"][];
  onClose: () => void;
  onMade: (id: string) => void;
}

/** A new part with its bin; each dimension is refused at its own field. */
export function NewPart({ kinds, onClose, onMade }: NewPartProps) {
  const writes = useStock();
  const [kind, setKind] = useState<Schemas["PartKindKeyEnum"]>("spoke");
  const [said, setSaid] = useState<Record<string, string>>({});
  const problem = writes.add.error instanceof Problem ? writes.add.error : null;
  const attributes = kinds.find((k) => k.key === kind)?.attributes ?? [];
  const text = (name: string, label: string) => (
    <TextField
      key={name}
      label={label}
      value={said[name] ?? ""}
      onChange={(v) => setSaid((s) => ({ ...s, [name]: v }))}
      error={problem?.for(name)}
    />
  );
  const send = () => {
    const given: Record<string, unknown> = {};
    for (const a of attributes) {
      const value = (said[a.name] ?? "").trim();
      if (value === "") continue;
      const number = typedNumber(value) ?? NaN;
      given[a.name] =
        a.kind === "flag" ? value === "yes" : a.kind === "number" && !Number.isNaN(number) ? number : value;
    }
    const whole = (name: string) =>
      said[name]?.trim() ? { [name]: typedNumber(said[name] ?? "") ?? NaN } : {};
    writes.add.go(
      {
        kind,
        name: said["name"] ?? "",
        bin: said["bin"] ?? "",
        supplier: said["supplier"] ?? "",
        ...whole("minimum"),
        ...whole("pack"),
        attributes: given,
      },
      (made) => onMade(made.id),
    );
  };
  return (
    <Dialog open onOpenChange={onClose} title={say`A new part`}>
      <form
        className="grid grid-cols-2 gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          send();
        }}
      >
        <PickField
          label={say`Kind`}
          value={kind}
          options={kinds.map((k) => ({ value: k.key, text: k.name }))}
          onChange={(v) => setKind(v as Schemas["PartKindKeyEnum"])}
        />
        {text("name", say`Name`)}
        {text("bin", say`Bin`)}
        {text("supplier", say`Supplier`)}
        {text("minimum", say`Keep at least`)}
        {text("pack", say`Sold in packs of`)}
        {attributes.map((a) => {
          const label = labelOf(a.name) + (a.needed ? "" : say`, if known`);
          if (a.kind === "number" || a.kind === "text") return text(a.name, label);
          const words = a.kind === "flag" ? ["yes", "no"] : a.words;
          return (
            <PickField
              key={a.name}
              label={label}
              value={said[a.name] ?? ""}
              options={[
                { value: "", text: say`as usual` },
                ...words.map((w) => ({ value: w, text: w.replaceAll("_", " ") })),
              ]}
              onChange={(v) => setSaid((s) => ({ ...s, [a.name]: v }))}
              error={problem?.for(a.name)}
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

/** "end diameter, mm" of "end_diameter_mm". */
export function labelOf(name: string): string {
  const text = name
    .replace(/_(mm|n|deg)$/, (_, unit: string) => `, ${unit === "n" ? "N" : unit === "deg" ? "°" : unit}`)
    .replaceAll("_", " ");
  return text.startsWith("erd") ? `ERD${text.slice(3)}` : text[0]?.toUpperCase() + text.slice(1);
}

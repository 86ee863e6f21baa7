import { t as say } from "@lingui/core/macro";
import { z } from "@/ui/zod";
import type { Schemas } from "@/api/client";
import { typedNumber, wrongIn } from "@/ui/number";

type PartKind = Schemas["PartKind"];

/** A part as it stands in the fields; which attributes there are follows from its kind. */
export function newPartSchema(kinds: readonly PartKind[]) {
  return z
    .object({
      kind: z.custom<Schemas["PartKindKeyEnum"]>(),
      name: z
        .string()
        .trim()
        .min(1, say`Say what the shop calls it.`),
      bin: z.string().trim(),
      supplier: z.string().trim(),
      minimum: z.string(),
      pack: z.string(),
      attributes: z.record(z.string(), z.string()),
    })
    .superRefine((said, context) => {
      const at = (path: string[], message: string | undefined) => {
        if (message) context.addIssue({ code: "custom", path, message });
      };
      at(["minimum"], wrongIn(said.minimum, { min: 0, whole: true }));
      at(["pack"], wrongIn(said.pack, { min: 1, whole: true }));
      for (const a of attributesOf(kinds, said.kind)) {
        const text = said.attributes[a.name] ?? "";
        if (a.kind === "number") at(["attributes", a.name], wrongIn(text));
        if (a.needed && a.kind !== "flag" && text.trim() === "")
          at(["attributes", a.name], say`This is needed.`);
      }
    });
}

export type NewPartForm = z.infer<ReturnType<typeof newPartSchema>>;

export const NEW_PART: NewPartForm = {
  kind: "spoke",
  name: "",
  bin: "",
  supplier: "",
  minimum: "",
  pack: "",
  attributes: {},
};

export function attributesOf(kinds: readonly PartKind[], kind: string): PartKind["attributes"] {
  return kinds.find((k) => k.key === kind)?.attributes ?? [];
}

/** What the server is asked: only what was said, figures as numbers. */
export function partOf(said: NewPartForm, kinds: readonly PartKind[]) {
  const given: Record<string, unknown> = {};
  for (const a of attributesOf(kinds, said.kind)) {
    const value = (said.attributes[a.name] ?? "").trim();
    if (value === "") continue;
    given[a.name] = a.kind === "flag" ? value === "yes" : a.kind === "number" ? typedNumber(value) : value;
  }
  const whole = (name: "minimum" | "pack") =>
    said[name].trim() ? { [name]: typedNumber(said[name]) ?? 0 } : {};
  const { kind, name, bin, supplier } = said;
  return { kind, name, bin, supplier, ...whole("minimum"), ...whole("pack"), attributes: given };
}

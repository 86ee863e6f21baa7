import { z } from "@/ui/zod";
import { wrongIn } from "@/ui/number";
import { TEXTS } from "./draft";

/** The parts of a wheel as they stand in the fields, figures as text by dotted path, and how well they are known. */
export const partsSchema = z
  .object({
    kind: z.string(),
    school: z.enum(["center", "locknut"]),
    draft: z.record(z.string(), z.string()),
    sds: z.record(z.string(), z.string()),
  })
  .superRefine((said, context) => {
    const at = (field: "draft" | "sds", path: string, text: string) => {
      const message = wrongIn(text, field === "sds" ? { min: 0 } : {});
      if (message) context.addIssue({ code: "custom", path: [field, path], message });
    };
    for (const [path, text] of Object.entries(said.draft)) if (!TEXTS.has(path)) at("draft", path, text);
    for (const [path, text] of Object.entries(said.sds)) at("sds", path, text);
  });

export type PartsForm = z.infer<typeof partsSchema>;

/** What the form itself has against a figure, by the figure's own path. */
export function refusals(said: PartsForm): Record<string, string> {
  const found = partsSchema.safeParse(said);
  if (found.success) return {};
  return Object.fromEntries(found.error.issues.map((issue) => [String(issue.path[1]), issue.message]));
}

import { typedNumber } from "@/ui/number";
import type { Schemas } from "@/api/client";

export type Specification = Schemas["Specification"];
type Tree = { [key: string]: unknown };

/** A specification while it is being typed: every number as its text, by dotted path. */
export type Draft = Readonly<Record<string, string>>;

/** How flanges are measured: from the middle of the hub, or from the locknut on that side. */
export type School = "center" | "locknut";

export function draftOf(specification: Specification): Draft {
  const draft: Record<string, string> = {};
  const walk = (value: unknown, path: string) => {
    if (value !== null && typeof value === "object") {
      for (const [key, item] of Object.entries(value)) walk(item, path ? `${path}.${key}` : key);
    } else if (typeof value === "number") {
      draft[path] = String(Math.round(value * 10000) / 10000);
    } else if (typeof value === "string") {
      draft[path] = value;
    }
  };
  walk(specification, "");
  return draft;
}

export const TEXTS = new Set(["first_side", "rim.material", "right.spoke.material", "left.spoke.material"]);
const PITCHES = new Set(["right.pitch_mm", "left.pitch_mm"]);

/**
 * The specification that a draft says. Numbers that cannot be read are sent as they stand, so that the refusal comes
 * back at their own field.
 */
export function specificationOf(draft: Draft, original: Specification): Specification {
  const tree: Tree = {};
  for (const [path, text] of Object.entries(draft)) {
    if (text.trim() === "") continue;
    const number = typedNumber(text) ?? NaN;
    put(tree, path, TEXTS.has(path) || Number.isNaN(number) ? text.trim() : number);
  }
  // The thread's pitch is not typed here: keep it to its last digit.
  for (const path of PITCHES) {
    const side = path.startsWith("right") ? original.right : original.left;
    if (side.pitch_mm !== undefined) put(tree, path, side.pitch_mm);
  }
  return tree as unknown as Specification;
}

function put(tree: Tree, path: string, value: unknown): void {
  const keys = path.split(".");
  let node = tree;
  for (const key of keys.slice(0, -1)) {
    const inner = (node[key] ?? {}) as Tree;
    node[key] = inner;
    node = inner;
  }
  node[keys.at(-1) ?? ""] = value;
}

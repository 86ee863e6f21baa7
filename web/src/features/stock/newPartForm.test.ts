import { describe, expect, it } from "vitest";
import type { Schemas } from "@/api/client";
import { NEW_PART, newPartSchema, partOf } from "./newPartForm";

const kinds: Schemas["PartKind"][] = [
  {
    key: "spoke",
    name: "Spokes",
    attributes: [
      { name: "length_mm", label: "Length, mm", kind: "number", needed: true, words: [] },
      { name: "elbow", label: "Elbow", kind: "flag", needed: false, words: [] },
      { name: "colour", label: "Colour", kind: "text", needed: false, words: [] },
    ],
  },
];
const schema = newPartSchema(kinds);
const said = { ...NEW_PART, name: "Spoke 290", attributes: { length_mm: "290,5", elbow: "no", colour: "" } };

function refusedAt(form: unknown): string[] {
  const found = schema.safeParse(form);
  return found.success ? [] : found.error.issues.map((issue) => issue.path.join("."));
}

describe("a new part", () => {
  it("sends what was said, figures as numbers, and nothing of what was left empty", () => {
    expect(partOf({ ...said, minimum: "40" }, kinds)).toEqual({
      kind: "spoke",
      name: "Spoke 290",
      bin: "",
      supplier: "",
      minimum: 40,
      attributes: { length_mm: 290.5, elbow: false },
    });
  });

  it("is refused at each field that cannot be read or is missing", () => {
    expect(refusedAt(said)).toEqual([]);
    expect(refusedAt({ ...said, name: " " })).toEqual(["name"]);
    expect(refusedAt({ ...said, minimum: "4.5", pack: "0" })).toEqual(["minimum", "pack"]);
    expect(refusedAt({ ...said, attributes: { length_mm: "29O" } })).toEqual(["attributes.length_mm"]);
    expect(refusedAt({ ...said, attributes: {} })).toEqual(["attributes.length_mm"]);
  });
});

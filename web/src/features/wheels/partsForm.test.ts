import { describe, expect, it } from "vitest";
import { type PartsForm, refusals } from "./partsForm";

const said: PartsForm = {
  kind: "",
  school: "center",
  draft: { "rim.erd_mm": "602,5", "rim.material": "carbon", "hub.old_mm": "" },
  sds: { "rim.erd_mm": "0.5" },
};

describe("the parts of a wheel", () => {
  it("may go out with figures that can be read, and with none", () => {
    expect(refusals(said)).toEqual({});
  });

  it("are refused at the figure that cannot be read, and at a doubt below nothing", () => {
    expect(Object.keys(refusals({ ...said, draft: { ...said.draft, "rim.erd_mm": "6O2" } }))).toEqual([
      "rim.erd_mm",
    ]);
    expect(Object.keys(refusals({ ...said, sds: { "hub.old_mm": "-1" } }))).toEqual(["hub.old_mm"]);
  });
});

import { describe, expect, it } from "vitest";
import { type Draft, draftOf, type Specification, specificationOf } from "./draft";

const wheel = {
  first_side: "R",
  rim: { erd_mm: 602.04999, material: "aluminium", holes: 32, spoke_bed_offset_mm: -1.5 },
  hub: { old_mm: 135, right: { pitch_circle_mm: 45, center_to_flange_mm: 20.5 } },
  right: { spoke: { material: "stainless", diameter_mm: 2 }, pitch_mm: 0.45357142857 },
  left: { spoke: { material: "stainless", diameter_mm: 1.8 }, pitch_mm: 0.45357142857 },
} as unknown as Specification;

describe("a specification while it is typed", () => {
  it("is a text for each number, at its own place", () => {
    const draft = draftOf(wheel);
    expect(draft["rim.erd_mm"]).toBe("602.05");
    expect(draft["rim.spoke_bed_offset_mm"]).toBe("-1.5");
    expect(draft["hub.right.center_to_flange_mm"]).toBe("20.5");
    expect(draft["first_side"]).toBe("R");
  });

  it("comes back as it was, to the ten-thousandth that is shown, and the thread to its last digit", () => {
    const back = specificationOf(draftOf(wheel), wheel);
    expect(back).toEqual({ ...wheel, rim: { ...wheel.rim, erd_mm: 602.05 } });
  });

  const typed = (change: Draft) =>
    specificationOf({ ...draftOf(wheel), ...change }, wheel) as unknown as Record<
      string,
      Record<string, unknown>
    >;

  it("takes a comma for a point", () => {
    expect(typed({ "rim.erd_mm": " 598,5 " })["rim"]?.["erd_mm"]).toBe(598.5);
  });

  it("leaves out what was emptied, so that the server names what is missing", () => {
    expect(typed({ "rim.erd_mm": "  " })["rim"]).not.toHaveProperty("erd_mm");
  });

  it("sends what is no number as it stands, so that the refusal comes back at its field", () => {
    expect(typed({ "rim.erd_mm": "6o2" })["rim"]?.["erd_mm"]).toBe("6o2");
  });

  it("keeps a word a word even where it looks like a number", () => {
    expect(typed({ "right.spoke.material": "7075" })["right"]).toMatchObject({ spoke: { material: "7075" } });
  });

  it("takes a place that was not there before", () => {
    expect(typed({ "hub.left.pitch_circle_mm": "58" })["hub"]?.["left"]).toEqual({ pitch_circle_mm: 58 });
  });
});

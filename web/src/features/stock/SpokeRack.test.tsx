import { describe, expect, it } from "vitest";
import type { Schemas } from "@/api/client";
import { attribute, drawn } from "@/testing/markup";
import { SpokeRack } from "./SpokeRack";

type Part = Schemas["StockPart"];

const part = (length: number, on_hand: number, more: Partial<Part> = {}): Part =>
  ({
    id: `p${length}`,
    name: `Spoke ${length}`,
    on_hand,
    free: on_hand,
    minimum: 0,
    claims: [],
    attributes: { length_mm: length, end_diameter_mm: 2 },
    ...more,
  }) as unknown as Part;

const rack = (...parts: Part[]) =>
  drawn(<SpokeRack parts={parts} selected="p290" onSelect={() => undefined} />);
const bars = (picture: ReturnType<typeof drawn>) => picture.all.filter((e) => e.name === "rect");

describe("the rack of spokes", () => {
  it("stands by length, and says each bin to those who hear it", () => {
    const picture = rack(part(294, 4), part(188, 24), part(290, 72));
    const names = picture.all.filter((e) => e.name === "button").map((b) => b.attributes["title"]);
    expect(names).toEqual([
      "Spoke 188: 24 there, 24 free",
      "Spoke 290: 72 there, 72 free",
      "Spoke 294: 4 there, 4 free",
    ]);
    const pressed = picture.all.filter((e) => e.attributes["aria-pressed"] === "true");
    expect(pressed).toHaveLength(1);
  });

  it("is filled in proportion to what is there", () => {
    const heights = bars(rack(part(188, 24), part(290, 72)))
      .filter((r) => r.attributes["class"] === "fill-face stroke-ink")
      .map((r) => attribute(r, "height"));
    expect(heights[1]! / heights[0]!).toBeCloseTo(3);
  });

  it("draws what is claimed hollow on top of what is free", () => {
    const claimed = part(290, 20, { free: 14, claims: [{ covered: 6 }] as Part["claims"] });
    const [, all, free] = bars(rack(claimed));
    expect(attribute(free, "height") / attribute(all, "height")).toBeCloseTo(14 / 20);
    expect(attribute(free, "y") + attribute(free, "height")).toBeCloseTo(
      attribute(all, "y") + attribute(all, "height"),
    );
  });

  it("warns by line and colour where what is free is below the minimum", () => {
    const short = bars(rack(part(290, 20, { free: 5, minimum: 18 })));
    expect(short[0]?.attributes["class"]).toContain("stroke-danger");
    expect(Number(short[0]?.attributes["stroke-width"])).toBe(3);
    expect(bars(rack(part(290, 20, { minimum: 18 })))[0]?.attributes["class"]).not.toContain("danger");
  });

  it("draws nothing below the floor for a bin that owes spokes", () => {
    for (const bar of bars(rack(part(290, 0, { free: -4, claims: [{ covered: 0 }] as Part["claims"] })))) {
      expect(attribute(bar, "height")).toBeGreaterThanOrEqual(0);
    }
  });

  it("is an empty rack in a shop without spokes", () => {
    expect(bars(rack())).toEqual([]);
  });
});

import { beforeEach, describe, expect, it, vi } from "vitest";
import type { Schemas } from "@/api/client";
import { storage, stubTablet } from "@/testing/tablet";
import type { EntryOf } from "@/write/useOutbox";

type Body = Schemas["ReadingEntryRequest"];

const saved = (
  spoke: string,
  value: number,
  entered: Record<string, unknown>,
  kind: Body["kind"] = "tension",
) => ({ kind, spoke, value, entered, created_at: "2026-11-24T09:00:00Z" }) as Schemas["Reading"];
type Reading = EntryOf<"reading">;
const sent = (body: Partial<Body>) =>
  ({ state: "waiting", body: { kind: "tension", ...body } }) as unknown as Reading;
const back = (body: Partial<Body>) =>
  ({ ...sent(body), state: "refused", refusal: { code: "x", message: "Outside the table." } }) as Reading;

describe("what stands at a place", () => {
  let shown: typeof import("./useReadings").shownReadings;
  beforeEach(async () => {
    stubTablet(storage());
    vi.resetModules();
    shown = (await import("./useReadings")).shownReadings;
  });

  const text = (reading: Schemas["Reading"]) => [...shown([reading], []).values()][0]?.text;

  it("is what was entered, not what it was turned into", () => {
    expect(text(saved("R1", 1021.7, { value: 22.5, unit: "meter" }))).toBe("22.5");
    expect(text(saved("R1", 980.6, { value: 100, unit: "kgf" }))).toBe("100");
    expect(text(saved("R1", 950, { value: 412, unit: "Hz" }))).toBe("412 Hz");
    expect(text(saved("R1", 700, { feel: "loose" }))).toBe("loose");
    expect(text(saved("R1", 0.3, { value: 0 }, "lateral"))).toBe("0");
  });

  it("keeps the unit that it was entered in, whatever is chosen now", () => {
    const unit = (reading: Schemas["Reading"]) => [...shown([reading], []).values()][0]?.unit;
    expect(unit(saved("R1", 1021.7, { value: 22.5, unit: "meter" }))).toBe("units");
    expect(unit(saved("R1", 980.6, { value: 100, unit: "kgf" }))).toBe("kgf");
    expect(unit(saved("R1", 0.3, { value: 0.3, unit: "mm" }, "lateral"))).toBeUndefined();
    expect(shown([], [sent({ spoke: "R2", value: 27, unit: "N" })]).get("tension R2")?.unit).toBe("N");
  });

  it("is the mean of repeats, and says how many and what was left out", () => {
    const at = (row: Schemas["Reading"], kind = "tension") => shown([row], []).get(`${kind} R1`);
    const three = at(saved("R1", 910.4, { kind: "tension", unit: "meter", repeats: [900, 920, 911] }));
    expect(three).toMatchObject({
      text: "910",
      unit: "N",
      repeats: { kept: ["900", "920", "911"], leftOut: [] },
    });
    const wild = at(saved("R1", 910.4, { kind: "tension", repeats: [900, 920, 1900], outliers: [2] }));
    expect(wild?.repeats).toEqual({ kept: ["900", "920"], leftOut: ["1900"] });
    expect(
      at(saved("R1", 0.314, { kind: "lateral", repeats: [0.3, 0.33] }, "lateral"), "lateral")?.text,
    ).toBe("0.31");
    expect(text(saved("R1", 900, { kind: "tension", value: 900, repeats: [900] }))).toBe("900");
  });

  it("is what is on its way, over what was refused, over what is saved", () => {
    const rows = [
      saved("R1", 900, { value: 900 }),
      saved("R2", 900, { value: 900 }),
      saved("R3", 900, { value: 900 }),
    ];
    const map = shown(rows, [
      sent({ spoke: "R1", value: 910 }),
      back({ spoke: "R1", value: 9 }),
      back({ spoke: "R2", value: 9 }),
    ]);
    expect(map.get("tension R1")).toMatchObject({ text: "910", state: "waiting" });
    expect(map.get("tension R2")).toMatchObject({
      text: "9",
      state: "refused",
      message: "Outside the table.",
    });
    expect(map.get("tension R3")).toMatchObject({ text: "900", state: "saved" });
    expect(map.get("lateral R1")).toBeUndefined();
  });

  it("is the newest of two that are on their way", () => {
    const map = shown([], [sent({ spoke: "R1", value: 1 }), sent({ spoke: "R1", value: 2 })]);
    expect(map.get("tension R1")?.text).toBe("2");
  });

  it("says a dish in words while it is on its way", () => {
    const gauge = sent({ kind: "dish", method: "gauge", gap_mm: 2, gap_side: "L" });
    const flip = sent({ kind: "dish", method: "flip", clearance_right_way_mm: 1, clearance_flipped_mm: 2 });
    const stand = sent({ kind: "dish", method: "stand", offset_mm: 1.5, side: "R" });
    const of = (w: Reading) => shown([], [w]).get("dish ")?.text;
    expect([of(gauge), of(flip), of(stand)]).toEqual(["2 mm gap left", "flipped", "1.5 mm to the right"]);
  });
});

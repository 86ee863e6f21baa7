import { describe, expect, it } from "vitest";
import "@/testing/english";
import { daySpans, dayText } from "./week";

describe("a day's hours in one field", () => {
  it("reads what people write", () => {
    for (const text of ["9-12:30, 13:30-18", "09:00 - 12.30; 13:30–18:00"]) {
      const spans = daySpans(text, 2);
      expect(spans?.map((s) => [s.starts, s.ends])).toEqual([
        ["09:00:00", "12:30:00"],
        ["13:30:00", "18:00:00"],
      ]);
      expect(dayText(spans ?? [], 2)).toBe("9-12:30, 13:30-18");
      expect(dayText(spans ?? [], 3)).toBe("");
    }
    expect(daySpans("  ", 0)).toEqual([]);
  });

  it("does not guess at what it cannot read", () => {
    for (const text of ["nine to five", "9", "9-25", "9:75-12", "9-12 13-17"])
      expect(daySpans(text, 0)).toBeNull();
  });
});

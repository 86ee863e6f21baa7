import { afterEach, describe, expect, it } from "vitest";
import "@/testing/english";
import { dayOf, fromLocalInput, setShopZone, timeOf, toLocalInput } from "./when";

afterEach(() => setShopZone("UTC"));

describe("the shop's own time", () => {
  it("shows and reads the wall clock of the shop, whatever the device says", () => {
    for (const [zone, wall] of [
      ["Europe/Lisbon", "2026-07-01T13:00"],
      ["Pacific/Auckland", "2026-07-02T00:00"],
      ["America/St_Johns", "2026-07-01T09:30"],
    ] as const) {
      setShopZone(zone);
      expect(toLocalInput("2026-07-01T12:00:00Z")).toBe(wall);
      expect(fromLocalInput(wall)).toBe("2026-07-01T12:00:00.000Z");
      expect(timeOf("2026-07-01T12:00:00Z")).toBe(wall.slice(11));
      expect(dayOf(new Date("2026-07-01T12:00:00Z"))).toBe(wall.slice(0, 10));
    }
  });

  it("keeps a wall clock over the days on which clocks change", () => {
    setShopZone("Europe/Lisbon");
    for (const [wall, utc] of [
      ["2026-03-28T09:00", "2026-03-28T09:00:00.000Z"],
      ["2026-03-29T09:00", "2026-03-29T08:00:00.000Z"],
      ["2026-10-24T09:00", "2026-10-24T08:00:00.000Z"],
      ["2026-10-25T09:00", "2026-10-25T09:00:00.000Z"],
    ]) {
      expect(fromLocalInput(wall ?? "")).toBe(utc);
      expect(toLocalInput(utc)).toBe(wall);
    }
  });

  it("takes nothing for nothing", () => {
    expect(fromLocalInput("")).toBeNull();
    expect(fromLocalInput("soon")).toBeNull();
    expect(toLocalInput(null)).toBe("");
  });
});

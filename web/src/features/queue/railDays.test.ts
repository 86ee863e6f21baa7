import { afterEach, beforeEach, describe, expect, it } from "vitest";
import "@/testing/english";
import { setShopZone } from "@/ui/when";
import { firstOf, type Hanging, railDays } from "./railDays";

const wheel = (number: number, promised: string | null, customer = number): Hanging =>
  ({
    job: { id: `j${number}`, number, promised_at: promised },
    customer_no: customer,
    level: "fine",
    why: "",
  }) as unknown as Hanging;

const numbers = (days: ReturnType<typeof railDays>) =>
  days.map((d) => [d.title, d.hung.flatMap((h) => h.wheels.map((w) => w.job.number))]);

describe("the rail's days", () => {
  const now = new Date("2026-11-24T09:00:00Z");
  beforeEach(() => setShopZone("Europe/Lisbon"));
  afterEach(() => setShopZone("UTC"));

  it("puts what is overdue together, then a day each, then what has no promise", () => {
    const days = railDays(
      [
        wheel(7, null),
        wheel(1, "2026-11-20T12:00:00Z"),
        wheel(2, "2026-11-23T23:59:00Z"),
        wheel(4, "2026-11-25T10:00:00Z"),
        wheel(3, "2026-11-24T17:00:00Z"),
        wheel(6, "2026-11-28T10:00:00Z"),
        wheel(5, "2026-11-25T16:00:00Z"),
      ],
      now,
      [{ day: "2026-11-25", bench_min: 900, work_min: 120 }],
    );
    expect(numbers(days)).toEqual([
      ["Before today", [1, 2]],
      ["Today 24 Nov", [3]],
      ["Tomorrow 25 Nov", [4, 5]],
      ["Saturday 28 Nov", [6]],
      ["No day promised", [7]],
    ]);
    expect(days.map((d) => d.benchMin)).toEqual([null, null, 900, null, null]);
  });

  it("goes by the shop's day, not by the device's", () => {
    setShopZone("Pacific/Auckland");
    // 20:00 UTC is the morning of the 25th there, and "now" its evening of the 24th.
    expect(railDays([wheel(1, "2026-11-24T20:00:00Z")], now)[0]?.title).toBe("Tomorrow 25 Nov");
  });

  it("keeps a promise of earlier today on today, and hangs nothing on an empty rail", () => {
    expect(railDays([wheel(1, "2026-11-24T00:05:00Z")], now)[0]?.title).toBe("Today 24 Nov");
    expect(railDays([], now)).toEqual([]);
  });

  it("tells the days apart on which clocks change", () => {
    // The last Sundays of October and March at 01:00 UTC (EU Directive 2000/84/EC).
    const autumn = [wheel(1, "2026-10-25T23:30:00Z"), wheel(2, "2026-10-26T00:30:00Z")];
    expect(railDays(autumn, new Date("2026-10-25T10:00:00Z")).map((d) => d.title)).toEqual([
      "Today 25 Oct",
      "Tomorrow 26 Oct",
    ]);
    const spring = [wheel(1, "2026-03-29T22:30:00Z"), wheel(2, "2026-03-29T23:30:00Z")];
    expect(railDays(spring, new Date("2026-03-29T09:00:00Z")).map((d) => d.title)).toEqual([
      "Today 29 Mar",
      "Tomorrow 30 Mar",
    ]);
  });

  it("hangs a customer's lot of one day on one hook, where its first wheel is", () => {
    const at = "2026-11-25T10:00:00Z";
    const day = railDays(
      [wheel(1, at), wheel(2, at, 9), wheel(3, at, 9), wheel(4, at), wheel(5, at, 9)],
      now,
    )[0];
    expect(day?.hung.map((h) => h.wheels.map((w) => w.job.number))).toEqual([[1], [2, 3, 5], [4]]);
  });

  it("begins with the first that hang, whole days as far as they go", () => {
    const days = railDays(
      [
        wheel(1, "2026-11-20T12:00:00Z"),
        wheel(2, "2026-11-24T10:00:00Z"),
        wheel(3, "2026-11-24T11:00:00Z"),
        wheel(4, null),
      ],
      now,
    );
    expect(numbers(firstOf(days, 2))).toEqual([
      ["Before today", [1]],
      ["Today 24 Nov", [2]],
    ]);
    expect(numbers(firstOf(days, 3))).toEqual(numbers(days).slice(0, 2));
    expect(firstOf(days, 9)).toEqual(days);
    expect(firstOf(days, 0)).toEqual([]);
  });
});

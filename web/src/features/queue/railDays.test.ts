import { describe, expect, it, vi } from "vitest";
import { type Hanging, railDays } from "./railDays";

// The shop's clock; hoisted, since a formatter keeps the zone that it is made in.
vi.hoisted(() => {
  vi.stubEnv("TZ", "Europe/Lisbon");
});

const wheel = (number: number, promised: string | null): Hanging =>
  ({ job: { number, promised_at: promised }, level: "on_time", why: "" }) as unknown as Hanging;

describe("the rail's days", () => {
  const now = new Date("2026-11-24T09:00:00Z");

  it("puts what is overdue together, then a day each, then what has no promise", () => {
    const days = railDays(
      [
        wheel(1, "2026-11-20T12:00:00Z"),
        wheel(2, "2026-11-23T23:59:00Z"),
        wheel(3, "2026-11-24T17:00:00Z"),
        wheel(4, "2026-11-25T10:00:00Z"),
        wheel(5, "2026-11-25T16:00:00Z"),
        wheel(6, "2026-11-28T10:00:00Z"),
        wheel(7, null),
      ],
      now,
    );
    expect(days.map((d) => [d.title, d.wheels.map((w) => w.job.number)])).toEqual([
      ["Before today", [1, 2]],
      ["Today 24 Nov", [3]],
      ["Tomorrow 25 Nov", [4, 5]],
      ["Saturday 28 Nov", [6]],
      ["No day promised", [7]],
    ]);
    expect(days.map((d) => d.date?.getDate() ?? null)).toEqual([null, 24, 25, 28, null]);
  });

  it("keeps a promise of earlier today on today", () => {
    expect(railDays([wheel(1, "2026-11-24T00:05:00Z")], now)[0]?.title).toBe("Today 24 Nov");
  });

  it("hangs nothing on an empty rail", () => {
    expect(railDays([], now)).toEqual([]);
  });

  it("tells today from tomorrow on the day that has 25 hours", () => {
    // Clocks go back in the night before 25 October 2026 (EU Directive 2000/84/EC: last Sunday of October, 01:00 UTC).
    const sunday = new Date("2026-10-25T10:00:00Z");
    const days = railDays([wheel(1, "2026-10-25T23:30:00Z"), wheel(2, "2026-10-26T00:30:00Z")], sunday);
    expect(days.map((d) => d.title)).toEqual(["Today 25 Oct", "Tomorrow 26 Oct"]);
  });

  it("tells tomorrow from today on the day that has 23 hours", () => {
    const sunday = new Date("2026-03-29T09:00:00Z");
    const days = railDays([wheel(1, "2026-03-29T22:30:00Z"), wheel(2, "2026-03-29T23:30:00Z")], sunday);
    expect(days.map((d) => d.title)).toEqual(["Today 29 Mar", "Tomorrow 30 Mar"]);
  });
});

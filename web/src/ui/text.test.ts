import { describe, expect, it } from "vitest";
import { classes } from "./classes";
import { shownForce, signed } from "./forces";
import { minutesText, money } from "./money";
import { toLocalInput } from "./when";

describe("forces", () => {
  // 1 kgf = 9.80665 N exactly: the standard acceleration of free fall, 3rd CGPM (1901), ISO 80000-4.
  it.each([
    [980.665, "kgf", "100"],
    [1200, "kgf", "122"],
    [1200.4, "N", "1200"],
  ] as const)("%f N is shown in %s as %s", (newton, unit, text) => {
    expect(shownForce(newton, unit)).toBe(text);
  });

  it.each([
    [0.124, 2, "+0.12"],
    [-0.126, 2, "−0.13"],
    [0, 2, "0.00"],
    [-0.001, 2, "0.00"],
    [0.4, 0, "0"],
    [-31.4, 0, "−31"],
  ])("%f carries its sign where it means something", (value, digits, text) => {
    expect(signed(value, digits)).toBe(text);
  });
});

describe("prices", () => {
  it("are kept in the smallest coin and shown in the coin's own digits", () => {
    expect(money(4250, "EUR")).toBe("€42.50");
    // ISO 4217: the yen has no minor unit, the Kuwaiti dinar three digits.
    expect(money(4250, "JPY")).toMatch(/4,250$/);
    expect(money(4250, "KWD")).toMatch(/4\.250$/);
  });

  it("say when there is none, which is not the same as nothing to pay", () => {
    expect(money(null, "EUR")).toBe("no price set");
    expect(money(undefined, "EUR")).toBe("no price set");
    expect(money(0, "EUR")).toBe("€0.00");
  });

  it.each([
    [25, "25 min"],
    [60, "1 h"],
    [85, "1 h 25 min"],
    [120, "2 h"],
  ])("%d minutes are %s", (minutes, text) => {
    expect(minutesText(minutes)).toBe(text);
  });
});

describe("times", () => {
  it("go into a field for a local time and come back as the same moment", () => {
    for (const iso of ["2026-11-24T14:30:00Z", "2026-06-01T00:00:00Z", "2026-10-25T03:30:00Z"])
      expect(new Date(toLocalInput(iso)).getTime()).toBe(new Date(iso).getTime());
    expect(toLocalInput(null)).toBe("");
    expect(toLocalInput(undefined)).toBe("");
  });
});

it("joins the classes that are there", () => {
  expect(classes("a", undefined, "b")).toBe("a b");
});

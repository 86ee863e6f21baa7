import { describe, expect, it } from "vitest";
import type { Schemas } from "@/api/client";
import { attribute, drawn } from "@/testing/markup";
import { Curve } from "./Curve";
import { dishText } from "./dish";
import { DishDrawing } from "./DishDrawing";

const MIDDLE = 240;

/** Where the rim is drawn, left (−) or right (+) of the middle. */
function rimOf(picture: ReturnType<typeof drawn>): number {
  const rim = picture.all.find((e) => /q0 12 12 12/.test(e.attributes["d"] ?? ""));
  return Number(/^M(-?[\d.]+)/.exec(rim?.attributes["d"] ?? "")?.[1]) + 12 - MIDDLE;
}

it("says dish by its side, and a hair's breadth as none", () => {
  expect([-0.3, 1.255, 0, -0.004].map(dishText)).toEqual([
    "0.30 mm to the left",
    "1.25 mm to the right",
    "in the middle",
    "in the middle",
  ]);
});

describe("the dish drawing", () => {
  // A gap at a locknut means that the rim sits half of it toward that side; flipped, half the difference toward the right.
  it.each([
    ["gauge", "R", 3, null, "1.50 mm to the right"],
    ["gauge", "L", 3, null, "1.50 mm to the left"],
    ["gauge", "R", -1, null, "0.50 mm to the left"],
    ["flip", "R", 2, 5, "1.50 mm to the right"],
    ["flip", "L", 5, 2, "1.50 mm to the left"],
    ["stand", "L", 1.2, null, "1.20 mm to the left"],
    ["gauge", "R", 24, null, "12.00 mm to the right"],
  ] as const)("%s, %s, %f, %j: rim %s", (method, side, first, second, said) => {
    const picture = drawn(<DishDrawing {...{ method, side, first, second }} />);
    expect(picture.text).toContain(`rim ${said}`);
    expect(Math.sign(rimOf(picture))).toBe(said.endsWith("right") ? 1 : -1);
  });

  it("keeps the rim in the middle while nothing, or one of two, is typed", () => {
    for (const [method, first] of [
      ["gauge", null],
      ["flip", 3],
      ["gauge", 0],
    ] as const)
      expect(rimOf(drawn(<DishDrawing {...{ method, side: "R", first, second: null }} />))).toBe(0);
  });

  it("stays inside its frame however far out the wheel is", () => {
    expect(
      Math.abs(rimOf(drawn(<DishDrawing method="gauge" side="L" first={500} second={null} />))),
    ).toBeLessThan(90);
  });

  it("shows the gap in red only where there is one, never for an overlap", () => {
    const red = (first: number) =>
      drawn(<DishDrawing method="gauge" side="R" first={first} second={null} />).all.some(
        (e) => e.attributes["class"] === "stroke-danger",
      );
    expect([red(2), red(0), red(-2)]).toEqual([true, false, false]);
  });
});

describe("the curve of straight against even", () => {
  const curve = (more: Partial<Schemas["Curve"]> = {}): Schemas["Curve"] => ({
    points: [2, 8, 20].map((spread_percent, i) => ({
      spread_percent,
      lateral_tir_mm: 1.2 - 0.4 * i,
      radial_tir_mm: 0.5 - 0.1 * i,
    })),
    tier_lateral_mm: 0.5,
    tier_radial_mm: 0.5,
    tier_spread_percent: 20,
    can: true,
    chance: 0.934,
    best_tier: "sound",
    why: "It can be saved.",
    bends: [],
    to_customer: "We can true it.",
    ...more,
  });
  const dots = (c: Schemas["Curve"]) =>
    drawn(<Curve curve={c} tier="sound" />).all.filter((e) => e.name === "circle");

  it("falls as more spread is allowed, and has its point in the corner only where the tier is met", () => {
    const picture = drawn(<Curve curve={curve()} tier="sound" />);
    const corner = picture.all.find((e) => e.attributes["class"]?.startsWith("fill-tube"));
    const [x, y] = [attribute(corner, "x"), attribute(corner, "y")];
    const within = dots(curve()).map(
      (d) => attribute(d, "cx") <= x + attribute(corner, "width") + 1e-6 && attribute(d, "cy") >= y - 1e-6,
    );
    expect(within).toEqual([false, false, true]);
    const heights = dots(curve()).map((d) => attribute(d, "cy"));
    expect(heights).toEqual([...heights].sort((a, b) => a - b));
  });

  it("says the chance, the reason and the customer's sentence", () => {
    const { text } = drawn(<Curve curve={curve()} tier="sound" />);
    expect(text).toContain("93 % of the wheels");
    expect(text).toContain("It can be saved.");
    expect(text).toContain("To the customer: We can true it.");
  });

  it("draws the radial limit by itself where the shop's tier has another one", () => {
    const edges = (c: Schemas["Curve"]) =>
      drawn(<Curve curve={c} tier="sound" />).all.filter((e) => e.attributes["stroke-dasharray"] === "6 4")
        .length;
    expect(edges(curve())).toBe(1);
    expect(edges(curve({ tier_radial_mm: 0.8 }))).toBe(2);
  });

  it("keeps a rim that is far gone inside the picture", () => {
    const far = curve({
      points: [{ spread_percent: 60, lateral_tir_mm: 14, radial_tir_mm: 9 }] as Schemas["Curve"]["points"],
    });
    for (const dot of dots(far)) {
      expect(attribute(dot, "cy")).toBeGreaterThanOrEqual(0);
      expect(attribute(dot, "cx")).toBeLessThanOrEqual(440);
    }
  });
});

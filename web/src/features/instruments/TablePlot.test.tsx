import { describe, expect, it } from "vitest";
import type { Schemas } from "@/api/client";
import { attribute, drawn } from "@/testing/markup";
import { TablePlot } from "./TablePlot";

const curve = [15, 18, 21, 24].map((reading, i): Schemas["FitCurve"] => ({
  reading,
  force_n: 400 + 300 * i,
  band_n: 20,
}));
const points: Schemas["FitPoint"][] = [
  { reading: 15, load_n: 410, residual_n: 10 },
  { reading: 21, load_n: 980, residual_n: -20 },
];
const dots = (picture: ReturnType<typeof drawn>) => picture.all.filter((e) => e.name === "circle");

describe("force against reading", () => {
  const picture = drawn(<TablePlot curve={curve} points={points} label="round 2.0" />);

  it("has a mark for each load that was hung, higher for more, further right for a larger reading", () => {
    const [low, high] = dots(picture);
    expect(dots(picture)).toHaveLength(2);
    expect(attribute(high, "cy")).toBeLessThan(attribute(low, "cy"));
    expect(attribute(high, "cx")).toBeGreaterThan(attribute(low, "cx"));
  });

  it("draws the residual from the load to the curve, up or down", () => {
    const ends = picture.all
      .filter((e) => e.attributes["class"] === "stroke-danger")
      .map((e) => /^M[\d.]+ ([\d.]+)V([\d.]+)$/.exec(e.attributes["d"] ?? ""))
      .map((m) => Number(m?.[2]) - Number(m?.[1]));
    expect(ends.map(Math.sign)).toEqual([1, -1]);
    expect(ends[1]! / ends[0]!).toBeCloseTo(-2);
  });

  it("keeps everything inside the frame", () => {
    const last = picture.all.filter((e) => e.name === "text" && attribute(e, "y") > 200).at(-1);
    expect(last?.attributes["text-anchor"]).toBe("end");
    for (const dot of dots(picture)) {
      expect(attribute(dot, "cx")).toBeGreaterThanOrEqual(46);
      expect(attribute(dot, "cx")).toBeLessThanOrEqual(550);
      expect(attribute(dot, "cy")).toBeGreaterThanOrEqual(0);
    }
  });

  it("is drawn for a single reading too", () => {
    const one = drawn(<TablePlot curve={[curve[0]!]} points={[points[0]!]} label="one" />);
    expect(JSON.stringify(one.all)).not.toContain("NaN");
  });
});

import { describe, expect, it } from "vitest";
import type { Schemas } from "@/api/client";
import { attribute, type Drawn, drawn } from "@/testing/markup";
import { derived, places } from "@/testing/wheel";
import { DamageMap } from "./DamageMap";
import { LacingDrawing } from "./LacingDrawing";
import { WheelDrawing } from "./WheelDrawing";

const wheel = derived(places(9));
const none = () => undefined;

/** The angle from the top, clockwise, of a line's outer end: the picture's own, to be held against the wheel's. */
function angleOf(line: Drawn): number {
  const [x, y] = [attribute(line, "x1"), attribute(line, "y1")];
  return (Math.atan2(x, -y) * 180) / Math.PI;
}

const apart = (a: number, b: number) => Math.abs(((a - b + 540) % 360) - 180);

describe("the wheel from its right side", () => {
  const lines = (picture: ReturnType<typeof drawn>) => picture.all.filter((e) => e.name === "line");

  it("has every spoke at its angle, clockwise from the valve at the top", () => {
    const shown = lines(drawn(<WheelDrawing derived={wheel} selected="" hanging={false} />));
    expect(shown).toHaveLength(18);
    wheel.spokes.forEach((s, i) => expect(apart(angleOf(shown[i]!), s.angle_deg), s.name).toBeLessThan(1e-6));
  });

  it("is to scale: rim and hub end at their own radii", () => {
    for (const [i, line] of lines(
      drawn(<WheelDrawing derived={wheel} selected="" hanging={false} />),
    ).entries()) {
      expect(Math.hypot(attribute(line, "x1"), attribute(line, "y1"))).toBeCloseTo(wheel.rim_radius_mm);
      expect(Math.hypot(attribute(line, "x2"), attribute(line, "y2"))).toBeCloseTo(
        wheel.spokes[i]!.hub_radius_mm,
      );
    }
  });

  it.each(["R1", "R5", "L9"])("hangs in the stand with %s at the bottom", (selected) => {
    const picture = drawn(<WheelDrawing derived={wheel} selected={selected} />);
    const turned = picture.all.find((e) => e.attributes["style"]?.includes("rotate"));
    const degrees = Number(/rotate\((-?[\d.]+)deg\)/.exec(turned?.attributes["style"] ?? "")?.[1]);
    const spoke = wheel.spokes.find((s) => s.name === selected);
    expect(apart(degrees + (spoke?.angle_deg ?? 0), 180)).toBeLessThan(1e-6);
    expect(Math.abs(degrees)).toBeLessThanOrEqual(180);
    expect(picture.all[0]?.attributes["aria-label"]).toContain(`${selected} at the bottom`);
  });

  it("draws the spoke in work over all others", () => {
    const shown = lines(drawn(<WheelDrawing derived={wheel} selected="R3" />));
    expect(shown.at(-1)?.attributes["class"]).toContain("stroke-signal");
  });
});

describe("the wheel while it is laced", () => {
  const order = [...wheel.spokes].sort((a, b) => a.side.localeCompare(b.side));
  const lacing = order.map(
    (s, i) =>
      ({
        order: i + 1,
        spoke: s.name,
        side: s.side,
        rim_hole: i + 1,
        flange_hole: i + 20,
        head: i % 2 ? "in" : "out",
      }) as Schemas["LacingPlace"],
  );
  const show = (placed: number, current: string) =>
    drawn(<LacingDrawing derived={wheel} places={lacing} placed={placed} current={current} />);

  it("draws what is in, and nothing else, and the one in hand", () => {
    for (const placed of [0, 1, 7, 18]) {
      const lines = show(placed, "").all.filter((e) => e.name === "line");
      expect(lines).toHaveLength(placed);
    }
    // The one in hand has a dark edge under its signal.
    expect(show(3, lacing[3]!.spoke).all.filter((e) => e.name === "line")).toHaveLength(5);
  });

  it("names both holes of the spoke in hand", () => {
    const { text } = show(3, lacing[3]!.spoke);
    expect(text).toMatch(/\b4\b/);
    expect(text).toMatch(/\b23\b/);
  });

  it("says that the hub is not to scale where it is not, and how much", () => {
    expect(show(0, "").text).toContain("hub drawn 3.4 times larger");
    const large = derived(places(9).map((s) => ({ ...s, hub_radius_mm: 90 })));
    expect(drawn(<LacingDrawing derived={large} places={lacing} placed={0} current="" />).text).not.toContain(
      "times larger",
    );
  });

  it("says how far it has got to those who hear it", () => {
    expect(show(7, "R8").all[0]?.attributes["aria-label"]).toBe(
      "Wheel from the right side, 7 of 18 spokes in, R8 in hand",
    );
  });
});

describe("the map of damage", () => {
  const mark = (id: string, spoke: string, level: Schemas["ConditionLevelEnum"]) =>
    ({ id, spoke, level }) as Schemas["ConditionMark"];
  const show = (marks: Schemas["ConditionMark"][], broken: string[] = [], bent: string[] = []) =>
    drawn(
      <DamageMap
        derived={wheel}
        marks={marks}
        breaks={broken.map((spoke) => ({ id: spoke, spoke }) as Schemas["Break"])}
        bent={bent}
        selected="R2"
        onSelect={none}
      />,
    );
  const signs = (picture: ReturnType<typeof drawn>) =>
    picture.all
      .map((e) => /^translate\((-?[\d.e-]+) (-?[\d.e-]+)\)$/.exec(e.attributes["transform"] ?? ""))
      .filter((m) => m !== null)
      .map(([, x, y]) => [Number(x), Number(y)] as const);

  it("has a place to touch for every spoke, and together they go once round", () => {
    const touched = show([]).all.filter((e) => e.attributes["class"]?.includes("cursor-pointer"));
    expect(touched).toHaveLength(18);
    const ends = touched.map((t) => t.attributes["d"]!.split(/[MA]/)[1]);
    expect(new Set(ends).size).toBe(18);
  });

  it("puts each mark at its spoke, and several at one spoke apart", () => {
    const [first, second, third] = signs(
      show([mark("a", "R4", "record"), mark("b", "R4", "watch"), mark("c", "L1", "record")]),
    );
    const at = (p: readonly [number, number]) => (Math.atan2(p[0], -p[1]) * 180) / Math.PI;
    const r4 = wheel.spokes.find((s) => s.name === "R4")!;
    expect(apart(at(first!), r4.angle_deg)).toBeLessThan(1e-6);
    expect(apart(at(second!), r4.angle_deg)).toBeLessThan(1e-6);
    expect(Math.hypot(first![0] - second![0], first![1] - second![1])).toBeGreaterThan(28);
    expect(apart(at(third!), wheel.spokes.find((s) => s.name === "L1")!.angle_deg)).toBeLessThan(1e-6);
  });

  it("keeps what has no spoke at the hub", () => {
    const [hub] = signs(show([mark("a", "", "watch")]));
    expect(Math.hypot(hub![0], hub![1])).toBeLessThan(22);
  });

  it("tells grave from slight by shape, not by colour alone", () => {
    const shapes = (level: Schemas["ConditionLevelEnum"]) => {
      const picture = show([mark("a", "R4", level)]);
      const grave = picture.all.filter(
        (e) => e.name === "rect" && e.attributes["transform"] === "rotate(45)",
      );
      return [grave.length, grave[0]?.attributes["class"]?.includes("fill-danger") ?? false];
    };
    expect(shapes("record")).toEqual([0, false]);
    expect(shapes("watch")).toEqual([1, false]);
    expect(shapes("not_to_ride")).toEqual([1, true]);
  });

  it("breaks the line of a broken spoke, and marks the bent stretch", () => {
    const picture = show([], ["R3"], ["R5", "L5"]);
    expect(picture.all.filter((e) => e.attributes["stroke-dasharray"] === "14 12")).toHaveLength(1);
    expect(
      picture.all.filter((e) => e.name === "path" && e.attributes["class"] === "stroke-danger"),
    ).toHaveLength(2);
  });
});

import { describe, expect, it } from "vitest";
import { attribute, drawn } from "@/testing/markup";
import { places, state } from "@/testing/wheel";
import { xOf } from "./scale";
import { Strip } from "./Strip";
import { TensionLane } from "./TensionLane";
import { TraceLabels, TraceLane } from "./TraceLane";
import { TurnsLane } from "./TurnsLane";
import type { Move } from "./types";

const none = () => undefined;
const WIDTH = 1200;

describe("the strip", () => {
  const wheel = state();
  const strip = drawn(
    <Strip state={wheel} unit="N" lanes={{ lateral: 80, tension: 120 }} selected="L2" onSelect={none} />,
  );
  const columns = strip.all.filter((e) => e.attributes["role"] === "radio");

  it("has a column for each spoke, round the rim from the valve", () => {
    expect(columns.map((c) => c.attributes["aria-label"]?.split(":")[0])).toEqual(
      wheel.spokes.map((s) => s.name),
    );
  });

  it("has one column chosen, and only that one in the order of Tab", () => {
    const chosen = columns.filter((c) => c.attributes["aria-checked"] === "true");
    expect(chosen.map((c) => c.attributes["aria-label"]?.split(":")[0])).toEqual(["L2"]);
    expect(columns.filter((c) => c.attributes["tabindex"] === "0")).toEqual(chosen);
  });

  it("reads a column out with its figures, and tells measured from estimated", () => {
    expect(columns[0]?.attributes["aria-label"]).toBe(
      "R1: 1000 N measured, lateral −0.10 mm, radial +0.10 mm",
    );
    expect(columns[3]?.attributes["aria-label"]).toContain("estimated");
  });

  it("shows forces in the person's unit", () => {
    const other = drawn(
      <Strip state={wheel} unit="kgf" lanes={{ tension: 120 }} selected="R1" onSelect={none} />,
    );
    expect(other.all.find((e) => e.attributes["role"] === "radio")?.attributes["aria-label"]).toContain(
      "102 kgf",
    );
  });

  it("draws only the lanes asked for, one under the other", () => {
    expect(strip.text).toContain("Lateral");
    expect(strip.text).not.toContain("radial mm");
    const height = (lanes: Parameters<typeof Strip>[0]["lanes"]) =>
      attribute(
        drawn(<Strip state={wheel} unit="N" lanes={lanes} selected="" onSelect={none} />).all.find(
          (e) => e.name === "svg",
        ),
        "height",
      );
    expect(height({ lateral: 80, radial: 60 }) - height({ lateral: 80 })).toBe(66);
    expect(height({ lateral: 80, radial: 0 })).toBe(height({ lateral: 80 }));
  });

  it("thins the names of a wheel with many spokes but keeps the one in work", () => {
    const many = state(places(48));
    const names = (selected: string) =>
      drawn(
        <Strip state={many} unit="N" lanes={{ lateral: 80 }} selected={selected} onSelect={none} />,
      ).text.split(" ");
    expect(names("").filter((n) => /^[RL]\d+$/.test(n)).length).toBeLessThan(96);
    const left = many.spokes[1]?.name ?? "";
    expect(names("")).not.toContain(left);
    expect(names(left)).toContain(left);
  });
});

describe("the tension lane", () => {
  const wheel = state();
  const lane = drawn(<TensionLane state={wheel} unit="N" width={WIDTH} top={0} height={200} />);
  const marks = lane.all.filter((e) => e.name === "circle");
  const axis = attribute(
    lane.all.find(
      (e) =>
        e.name === "line" && e.attributes["class"] === "stroke-ink" && !("stroke-dasharray" in e.attributes),
    ),
    "y1",
  );

  it("lets the right side rise and the left side hang, each at its spoke's angle", () => {
    wheel.spokes.forEach((s, i) => {
      const y = attribute(marks[i], "cy");
      expect(s.side === "R" ? y < axis : y > axis, s.name).toBe(true);
      expect(attribute(marks[i], "cx")).toBeCloseTo(xOf(s.angle_deg, WIDTH));
    });
  });

  it("tells the sides by the mark and not by colour alone", () => {
    wheel.spokes.forEach((s, i) => {
      const hollow = marks[i]?.attributes["class"]?.includes("fill-plate");
      expect(hollow, s.name).toBe(s.side === "L");
    });
  });

  it("has lengths in proportion to the forces on both sides", () => {
    const reach = wheel.spokes.map((s, i) => Math.abs(attribute(marks[i], "cy") - axis) / s.tension_n);
    for (const ratio of reach) expect(ratio).toBeCloseTo(reach[0] ?? 0, 6);
  });

  it("keeps every mark inside the lane, slack or far too tight", () => {
    const far = state();
    far.spokes[0]!.tension_n = -40;
    far.spokes[2]!.tension_n = 2600;
    far.spokes[5]!.tension_n = 1900;
    const tips = drawn(<TensionLane state={far} unit="N" width={WIDTH} top={10} height={200} />)
      .all.filter((e) => e.name === "circle")
      .map((e) => attribute(e, "cy"));
    for (const y of tips) {
      expect(y).toBeGreaterThanOrEqual(10);
      expect(y).toBeLessThanOrEqual(210);
    }
  });

  it("marks the figure that is outside, and never shows less than nothing", () => {
    const slack = state();
    slack.spokes[0]!.tension_n = -40;
    const text = drawn(<TensionLane state={slack} unit="N" width={WIDTH} top={0} height={200} />).text;
    expect(text.split(" ")).toContain("0");
    expect(text).not.toMatch(/-\d|−\d/);
  });
});

describe("a trace lane", () => {
  const lane = (wheel = state()) =>
    drawn(<TraceLane which="lateral" state={wheel} width={WIDTH} top={0} height={100} />);

  it("draws a lump to the right upward, inside its lane", () => {
    const mark = lane().all.find((e) => e.attributes["d"]?.endsWith("m-3 -4h6"));
    const y = Number(/ (-?[\d.]+)v8/.exec(mark?.attributes["d"] ?? "")?.[1]);
    expect(y).toBeGreaterThanOrEqual(0);
    expect(y + 4).toBeLessThan(50);
  });

  it("lays the tolerance half above and half below the mean line", () => {
    const tube = lane().all.find((e) => e.attributes["class"] === "fill-tube");
    const top = attribute(tube, "y");
    expect(top + attribute(tube, "height") / 2).toBeCloseTo(50);
  });

  it("names the range that it shows", () => {
    const labels = (wheel = state()) =>
      drawn(<TraceLabels which="lateral" state={wheel} top={0} height={100} gutter={108} />);
    expect(labels().text).toContain("+0.8");
    const far = state();
    far.lateral_marks = [{ ...far.lateral_marks[0]!, deviation_mm: -6.2 }];
    expect(labels(far).text).toContain("+8");
  });
});

describe("the turns lane", () => {
  const move = (spoke: string, turns: number, fraction: string, now: Move["state"] = "todo"): Move => ({
    spoke,
    turns,
    fraction,
    state: now,
  });

  it("tells tighten from ease by shape, and says how much", () => {
    const lane = drawn(
      <TurnsLane
        state={state()}
        moves={[move("R1", 0.375, "3/8"), move("L2", -1.25, "1 1/4")]}
        width={WIDTH}
        top={0}
        height={80}
      />,
    );
    const wedges = lane.all.filter((e) => e.name === "path");
    const tips = wedges.map((w) => Number(/ (-?\d+)z$/.exec(w.attributes["d"] ?? "")?.[1]));
    expect(tips.map(Math.sign)).toEqual([-1, 1]);
    expect(wedges.map((w) => w.attributes["class"]?.includes("fill-ink"))).toEqual([true, false]);
    expect(lane.text).toContain("3 8");
    expect(lane.text).toContain("1 1 4");
  });

  it("ticks what is done and strikes what was left", () => {
    const lane = drawn(
      <TurnsLane
        state={state()}
        moves={[move("R1", 0.25, "1/4", "done"), move("R2", 0.25, "1/4", "skipped"), move("R3", 0.25, "1/4")]}
        width={WIDTH}
        top={0}
        height={80}
      />,
    );
    expect(lane.text.match(/✓/g)).toHaveLength(1);
    expect(lane.text.match(/–/g)).toHaveLength(1);
  });
});

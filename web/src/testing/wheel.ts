import type { Schemas } from "@/api/client";
import type { WheelState } from "@/strip/types";

type Place = Schemas["SpokePlace"];

/** Spokes as the server sends them: right and left in turn round the rim, or as many of each side as asked. */
export function places(right: number, left: number = right): Place[] {
  const side = (name: "R" | "L", count: number, first: number): Place[] =>
    Array.from({ length: count }, (_, i) => ({
      name: `${name}${i + 1}`,
      side: name,
      angle_deg: first + (360 * i) / count,
      hub_angle_deg: first + (360 * i) / count + 30,
      hub_radius_mm: name === "R" ? 22 : 20,
    }));
  const spacing = 360 / (right + left);
  return [...side("R", right, spacing / 2), ...side("L", left, (3 * spacing) / 2)].sort(
    (a, b) => a.angle_deg - b.angle_deg,
  );
}

export function derived(spokes: Place[] = places(4)): Schemas["Derived"] {
  return { rim_radius_mm: 300, spokes } as unknown as Schemas["Derived"];
}

/** A state of the wheel with one spoke outside, one that is only estimated, and a lump at 90°. */
export function state(spokes: Place[] = places(4)): WheelState {
  const angles = Array.from({ length: 8 }, (_, i) => i * 45);
  const even = angles.map(() => 0.05);
  return {
    target_n: 1000,
    tier: { name: "sound", lateral_mm: 0.5, radial_mm: 0.5, dish_mm: 0.5, tension_percent: 20 },
    sides: { R: { mean_n: 1000, target_n: 1000 }, L: { mean_n: 600, target_n: 620 } },
    lateral_marks: [{ angle_deg: 90, deviation_mm: 0.6 }],
    radial_marks: [],
    trace: {
      angle_deg: angles,
      lateral_mm: angles.map((a) => (a === 90 ? 0.6 : -0.1)),
      lateral_sd_mm: even,
      radial_mm: angles.map(() => 0.1),
      radial_sd_mm: even,
    },
    spokes: spokes.map((s, i) => ({
      ...s,
      tension_n: s.side === "R" ? 1000 + 10 * i : 600,
      tension_sd_n: i === 3 ? 150 : 25,
      measured_n: i === 3 ? null : 1000,
      broken: false,
      read_lateral_mm: null,
      read_radial_mm: null,
      percent_of_mean: i === 2 ? -31 : 1,
      outside: i === 2,
      lateral_mm: i === 2 ? 0.6 : -0.1,
      radial_mm: 0.1,
    })),
  } as unknown as WheelState;
}

/** Places on the strip: the rim cut at the valve and laid flat, 0° to 360° from left to right. */
export function gutterLeft(width: number): number {
  return width < 600 ? 64 : 96;
}

export const GUTTER_RIGHT = 14;

export function xOf(angleDeg: number, width: number): number {
  return gutterLeft(width) + (angleDeg / 360) * (width - gutterLeft(width) - GUTTER_RIGHT);
}

/** The smallest pleasant half-range that holds `most`: 0.3, 0.5, 1, 1.5, 2, 3, 5 … */
export function niceRange(most: number): number {
  const steps = [0.3, 0.5, 0.8, 1, 1.5, 2, 3, 4, 5, 8, 12, 20, 30];
  return steps.find((step) => step >= most) ?? most;
}

export function pathThrough(points: readonly (readonly [number, number])[]): string {
  return points.map(([x, y], i) => `${i === 0 ? "M" : "L"}${x.toFixed(1)} ${y.toFixed(1)}`).join("");
}

/** Trace values at the angles, closed at 360° with the first value. */
export function closed(angles: readonly number[], values: readonly number[]): [number, number][] {
  const pairs = angles.map((angle, i): [number, number] => [angle, values[i] ?? 0]);
  return [...pairs, [360, values[0] ?? 0]];
}

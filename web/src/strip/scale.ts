/** Places on the strip: the rim cut at the valve and laid flat, 0° to 360° from left to right. */
export function xOf(angleDeg: number, width: number): number {
  return (angleDeg / 360) * width;
}

/** Room right of the plot, for the last name. */
export const GUTTER_RIGHT = 14;

/** Room left of the plot, for what the lanes are called. */
export function gutterLeft(room: number): number {
  return room < 600 ? 72 : 108;
}

/** A finger's width: below it a column is not meant by a touch. */
const FINGER = 44;
/** So narrow a column is for pointing and keys; a narrower one shows neither its mark nor its name. */
const NARROWEST = 20;

/** How wide the whole rim is drawn in so much room: a small screen shows a window of it. */
export function plotWidth(room: number, spokes: number): number {
  const own = room - gutterLeft(room) - GUTTER_RIGHT;
  const least = room < 700 ? FINGER : NARROWEST;
  return Math.max(own, least * spokes);
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

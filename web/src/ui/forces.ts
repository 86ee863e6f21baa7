import { figure } from "./number";

/** Forces are stored in newton; a person may think in kilogram-force (1 kgf = 9.80665 N, ISO 80000-4). */
export type ForceUnit = "N" | "kgf";

export function shownForce(newton: number, unit: ForceUnit): string {
  return unit === "N" ? newton.toFixed(0) : (newton / 9.80665).toFixed(0);
}

/** "+0.12" or "−0.12": a true minus sign, and a plus where the sign carries meaning. */
export function signed(value: number, digits: number): string {
  const text = figure(Math.abs(value), digits);
  if (Number(Math.abs(value).toFixed(digits)) === 0) return text;
  return value < 0 ? `−${text}` : `+${text}`;
}

import { t as say } from "@lingui/core/macro";
import { figure } from "@/ui/number";
/** Dish in words, + toward the right: nobody has to read a sign. */
export function dishText(mm: number): string {
  const size = figure(Math.abs(mm), 2);
  return Number(size) === 0 ? say`in the middle` : say`${size} mm to the ${mm > 0 ? say`right` : say`left`}`;
}

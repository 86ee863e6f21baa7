import { t as say } from "@lingui/core/macro";

/** A mark in words; the dots beside it say it again. */
export function markWord(mark: number): string {
  return [say`not there yet`, say`inside`, say`well done`, say`as the best plan does it`][mark] ?? "";
}

/** Time as somebody says it at the bench. */
export function spentText(seconds: number): string {
  const minutes = Math.round(seconds / 60);
  return minutes < 1 ? say`less than a minute` : say`${minutes} min`;
}

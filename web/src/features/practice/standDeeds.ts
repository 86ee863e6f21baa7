import { t as say } from "@lingui/core/macro";
import type { Schemas } from "@/api/client";

/** Steps a nipple is turned by, in turns. */
export const steps = [1 / 4, 1 / 8, 1 / 2, 1];

export type StandDeed =
  | "tighten"
  | "ease"
  | "step"
  | "back"
  | "on"
  | "closer"
  | "wider"
  | "spin"
  | "settle"
  | "look"
  | "dish"
  | "squeeze"
  | "pluck"
  | "oil"
  | "nipple"
  | "hold"
  | "straighten"
  | "plan"
  | "next"
  | "end";

export interface KeyedDeed {
  name: StandDeed;
  key: string;
  /** Another key for the same, beyond the ten. */
  also?: string;
  text: string;
}

type Mode = Schemas["PracticeModeEnum"];

/** What may be done in a mode, each with its key of the ten; `planned`: a nipple of the plan waits. */
export function standDeeds(mode: Mode, blade: boolean, planned: boolean): KeyedDeed[] {
  const measures = mode !== "eye";
  const deed = (when: boolean, name: StandDeed, key: string, text: string, also?: string): KeyedDeed[] =>
    when ? [{ name, key, text, ...(also === undefined ? {} : { also }) }] : [];
  return [
    ...deed(true, "back", "4", say`back`, "ArrowLeft"),
    ...deed(true, "on", "6", say`on`, "ArrowRight"),
    ...deed(true, "ease", "-", say`ease`),
    ...deed(true, "tighten", "+", say`tighten`),
    ...deed(true, "step", ".", say`step`, ","),
    ...deed(true, "spin", "5", say`spin`),
    ...deed(true, "closer", "2", say`pointers closer`, "ArrowDown"),
    ...deed(true, "wider", "8", say`wider`, "ArrowUp"),
    ...deed(measures, "look", "1", say`dials round`),
    ...deed(measures, "dish", "3", say`dish gauge`),
    ...deed(measures, "squeeze", "7", say`meter`),
    ...deed(true, "pluck", "9", say`pluck`),
    ...deed(true, "settle", "0", say`squeeze pairs`),
    ...deed(!blade, "oil", "*", say`oil`),
    ...deed(blade, "hold", "*", say`hold the blade`),
    ...deed(!blade, "nipple", "/", say`new nipple`),
    ...deed(blade, "straighten", "/", say`turn it flat`),
    ...deed(mode === "plan", "plan", "p", say`the plan`),
    // eslint-disable-next-line lingui/no-unlocalized-strings -- a key
    ...deed(mode !== "find", "next", "Enter", planned ? say`do it` : say`judge this pass`),
    ...deed(true, "end", "e", mode === "find" ? say`give up` : say`done: my marks`),
  ];
}

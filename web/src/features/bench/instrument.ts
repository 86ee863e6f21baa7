import { useState } from "react";
import { OTHER_SOURCES } from "./sources";

/** How tensions are entered on this tablet: a meter by its id, or a force in a unit. */
export type Instrument = string;

const KEY = "felloe.instrument";

/** The source to start with: the one used last, unless it is a meter that was put away since. */
export function startingSource(last: string | null, meters: readonly { id: string }[]): Instrument {
  const usable = [...meters.map((m) => m.id), ...OTHER_SOURCES.map((s) => s.value)];
  return usable.find((source) => source === last) ?? meters[0]?.id ?? "N";
}

/** The instrument this tablet used last; kept, since a bench has its meter. */
export function useInstrument(meters: readonly { id: string }[]): [Instrument, (next: Instrument) => void] {
  const [chosen, setChosen] = useState(() => localStorage.getItem(KEY));
  const choose = (next: Instrument) => {
    localStorage.setItem(KEY, next);
    setChosen(next);
  };
  return [startingSource(chosen, meters), choose];
}

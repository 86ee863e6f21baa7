import { useState } from "react";

/** How tensions are entered on this tablet: a meter by its id, or a force in a unit. */
export type Instrument = string;

const KEY = "felloe.instrument";

/** The instrument this tablet used last; kept, since a bench has its meter. */
export function useInstrument(first: string): [Instrument, (next: Instrument) => void] {
  const [chosen, setChosen] = useState(() => localStorage.getItem(KEY) ?? "");
  const choose = (next: Instrument) => {
    localStorage.setItem(KEY, next);
    setChosen(next);
  };
  return [chosen || first, choose];
}

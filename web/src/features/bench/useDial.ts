import { useState } from "react";
import type { Schemas } from "@/api/client";

export type DialKind = Schemas["DialKindEnum"];

/** The dial that looks at the rim by itself after each nipple, and past what; null where a person looks. */
export interface Dial {
  instrument: string;
  kinds: readonly DialKind[];
}

const KEY = "felloe.dial";

/** The dial this tablet used last, where it still streams; by hand where it was put away since. */
export function startingDial(last: string | null, streaming: readonly { id: string }[]): Dial | null {
  const [instrument, ...kinds] = (last ?? "").split(" ");
  const known = kinds.filter((kind): kind is DialKind => kind === "lateral" || kind === "radial");
  return streaming.some((one) => one.id === instrument) && known.length > 0 && instrument
    ? { instrument, kinds: known }
    : null;
}

export function useDial(streaming: readonly { id: string }[]): [Dial | null, (next: Dial | null) => void] {
  const [last, setLast] = useState(() => localStorage.getItem(KEY));
  const choose = (next: Dial | null) => {
    const kept = next ? [next.instrument, ...next.kinds].join(" ") : "";
    localStorage.setItem(KEY, kept);
    setLast(kept);
  };
  return [startingDial(last, streaming), choose];
}

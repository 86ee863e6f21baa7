import type { Trace } from "./types";

/** How what lies over the wheel's own state is drawn. A further kind of trace is one more line here, and whoever shows it. */
export const LOOKS = {
  /** As it was before. */
  ghost: {
    stroke: "stroke-ghost",
    width: 1.5,
    dash: undefined,
    behind: true,
    mark: { half: 6, width: 2, dash: undefined },
  },
  /** As it would be after. */
  foreseen: {
    stroke: "stroke-ink",
    width: 1.75,
    dash: "2 5",
    behind: false,
    mark: { half: 7, width: 1.75, dash: "2 3" },
  },
} as const;

export type Look = keyof typeof LOOKS;

/** A trace, tensions or both of another time, in the order of the state's own angles and spokes. */
export interface Over {
  look: Look;
  trace?: Trace | null | undefined;
  tension_n?: readonly number[] | undefined;
}

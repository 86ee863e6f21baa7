import { word } from "@/ui/words";

const FIGURES = ["lateral", "radial", "dish", "tension"] as const;

/** The figures that a chance is about, in words: of the rest too little was read. */
export function claimed({ unread }: { unread: readonly string[] }): string {
  return FIGURES.filter((figure) => !unread.includes(figure))
    .map((figure) => word(figure))
    .join(", ");
}

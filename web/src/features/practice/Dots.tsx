import { markWord } from "./words";

/** A mark of three: filled dots, and the word for who does not see them. */
export function Dots({ mark }: { mark: number | null }) {
  if (mark === null) return null;
  return (
    <span className="whitespace-nowrap">
      <span aria-hidden="true" className="font-figure tracking-widest">
        {"●".repeat(mark)}
        {"○".repeat(3 - mark)}
      </span>
      <span className="sr-only">{markWord(mark)}</span>
    </span>
  );
}

/** Split "1 5/8" into its whole part and its fraction. */
export function fractionParts(text: string): { whole: string; top: string; bottom: string } {
  const [first = "", second] = text.split(" ");
  const part = second ?? first;
  if (!part.includes("/")) return { whole: part, top: "", bottom: "" };
  const [top = "", bottom = ""] = part.split("/");
  return { whole: second ? first : "", top, bottom };
}

/** A fraction of a turn, stacked, legible at arm's length; sizes with the text around it. */
export function Fraction({ text }: { text: string }) {
  const { whole, top, bottom } = fractionParts(text);
  return (
    <span className="inline-flex items-center gap-[0.12em] align-middle font-figure">
      <span className="sr-only">{text}</span>
      {whole && <span aria-hidden="true">{whole}</span>}
      {top && (
        <span aria-hidden="true" className="inline-flex flex-col items-center text-[0.58em] leading-none">
          <span className="border-b-[0.09em] border-current px-[0.1em] pb-[0.08em]">{top}</span>
          <span className="pt-[0.08em]">{bottom}</span>
        </span>
      )}
    </span>
  );
}

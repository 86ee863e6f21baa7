import { otherLanguages } from "@/app/language";

/** A card or tag in another language than the page's, for whom it is printed; the page itself stays as it is. */
export function InLanguage() {
  return (
    <span className="flex gap-2 print:hidden">
      {otherLanguages().map(({ code, name }) => (
        <a
          key={code}
          href={`?language=${code}`}
          lang={code}
          className="inline-flex min-h-11 items-center rounded-sm border border-line-strong px-3"
        >
          {name}
        </a>
      ))}
    </span>
  );
}

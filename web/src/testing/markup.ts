import { renderToStaticMarkup } from "react-dom/server";
import { createElement, type ReactElement } from "react";
import { Speaking } from "@/app/Speaking";

/** What a drawing says, as an accessibility tree has it: each element's text, role, label and geometry by attribute. */
export interface Drawn {
  name: string;
  attributes: Record<string, string>;
}

/** The elements of a drawing, in the order of the page. */
export function drawn(element: ReactElement): { all: Drawn[]; text: string } {
  const html = renderToStaticMarkup(createElement(Speaking, null, element));
  const all = [...html.matchAll(/<([a-z]+)((?:\s+[\w:-]+="[^"]*")*)\s*\/?>/gi)].map(
    ([, name = "", rest = ""]) => ({
      name,
      attributes: Object.fromEntries(
        [...rest.matchAll(/([\w:-]+)="([^"]*)"/g)].map(([, key = "", value = ""]) => [key, value]),
      ),
    }),
  );
  const text = html
    .replace(/<[^>]+>/g, " ")
    .replace(/\s+/g, " ")
    .trim();
  return { all, text };
}

export function attribute(element: Drawn | undefined, name: string): number {
  return Number(element?.attributes[name]);
}

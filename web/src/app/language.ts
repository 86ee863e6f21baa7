import { i18n, type Messages } from "@lingui/core";

const KEY = "felloe.language";
export const ENGLISH = "en";
/** Letters of nowhere: whatever is still plain English on a screen was missed. Only by choice, never by the browser's wish. */
const PSEUDO = "en-xa";
const catalogues = import.meta.glob<{ messages: Messages }>(["../locales/*.po", "!../locales/en.po"]);

/** The languages that there is a catalogue for; English stands in the code. */
export const languages = [
  ENGLISH,
  ...Object.keys(catalogues).map((path) => path.replace(/^.*\/|\.po$/g, "")),
];

/** A card for a customer is opened in their language by its address, for this once: "?language=de". */
function byAddress(): string | undefined {
  const wanted = new URLSearchParams(location.search).get("language");
  return wanted !== null && languages.includes(wanted) ? wanted : undefined;
}

/** What the address asks for, what the person chose on this device, else the first of the browser's languages that there is, else English. */
export function chosenLanguage(): string {
  const asked = byAddress();
  if (asked) return asked;
  const kept = localStorage.getItem(KEY);
  if (kept && languages.includes(kept)) return kept;
  const real = languages.filter((language) => language !== PSEUDO);
  const wanted = navigator.languages.flatMap((code) => [code, code.split("-")[0] ?? code]);
  return wanted.find((code) => real.includes(code)) ?? ENGLISH;
}

/** Load the page's words. Where a catalogue cannot be had, English is better than nothing. */
export async function speak(language = chosenLanguage()): Promise<void> {
  const load = catalogues[`../locales/${language}.po`];
  const messages = load
    ? await load().then(
        (found) => found.messages,
        () => undefined,
      )
    : undefined;
  const spoken = messages ? language : ENGLISH;
  i18n.load(spoken, messages ?? {});
  i18n.activate(spoken);
  document.documentElement.lang = spoken;
}

export interface Language {
  code: string;
  /** By itself; what tells it takes long to make, so it is asked for only where it is shown. */
  readonly name: string;
}

/** The languages that are not spoken just now. */
export function otherLanguages(): Language[] {
  return languages
    .filter((code) => code !== PSEUDO && code !== i18n.locale)
    .map((code) => ({
      code,
      get name() {
        return new Intl.DisplayNames([code], { type: "language" }).of(code) ?? code;
      },
    }));
}

/** Speak another language on this device from now on. What is on its way is kept, and the page is loaded anew in it. */
export function chooseLanguage(code: string): void {
  localStorage.setItem(KEY, code);
  const here = new URL(location.href);
  here.searchParams.delete("language");
  location.replace(here);
}

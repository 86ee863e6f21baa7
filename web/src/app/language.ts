import { i18n, type Messages } from "@lingui/core";
import { compileMessage } from "@lingui/message-utils/compileMessage";

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

/** What the person chose on this device, else the first of the browser's languages that there is, else English. */
export function chosenLanguage(): string {
  const kept = localStorage.getItem(KEY);
  if (kept && languages.includes(kept)) return kept;
  const real = languages.filter((language) => language !== PSEUDO);
  const wanted = navigator.languages.flatMap((code) => [code, code.split("-")[0] ?? code]);
  return wanted.find((code) => real.includes(code)) ?? ENGLISH;
}

// The English in the code is understood here; a catalogue comes understood already.
i18n.setMessagesCompiler(compileMessage);

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

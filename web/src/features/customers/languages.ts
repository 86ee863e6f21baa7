/* eslint-disable lingui/no-unlocalized-strings -- a language is called by its own name */
/** Languages in which a customer may be written to; each by its own name. */
export const LANGUAGES = [
  { value: "en", text: "English" },
  { value: "de", text: "Deutsch" },
  { value: "pt", text: "Português" },
];

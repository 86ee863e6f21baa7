import { defineConfig } from "@lingui/cli";

// English stands in the code; every other language is one catalogue beside src/locales/en.po. "en-xa" is the pseudo-language.
export default defineConfig({
  sourceLocale: "en",
  locales: ["en", "en-xa"],
  pseudoLocale: "en-xa",
  fallbackLocales: false,
  catalogs: [{ path: "<rootDir>/src/locales/{locale}", include: ["<rootDir>/src"] }],
  format: "po",
  formatOptions: { lineNumbers: false },
  orderBy: "message",
});

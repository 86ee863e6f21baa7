import { readdirSync } from "node:fs";
import { defineConfig } from "@lingui/cli";

// English stands in the code; every other language is one catalogue beside src/locales/en.po. "en-xa" is the pseudo-language.
const found = readdirSync(new URL("./src/locales", import.meta.url)).filter((name) => name.endsWith(".po"));

export default defineConfig({
  sourceLocale: "en",
  locales: found.map((name) => name.replace(".po", "")),
  pseudoLocale: "en-xa",
  fallbackLocales: false,
  catalogs: [
    { path: "<rootDir>/src/locales/{locale}", include: ["<rootDir>/src"], exclude: ["**/*.test.*"] },
  ],
  format: "po",
  formatOptions: { lineNumbers: false },
  orderBy: "message",
});

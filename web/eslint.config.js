import js from "@eslint/js";
import lingui from "eslint-plugin-lingui";
import reactHooks from "eslint-plugin-react-hooks";
import { defineConfig, globalIgnores } from "eslint/config";
import tseslint from "typescript-eslint";

export default defineConfig([
  globalIgnores(["dist", "src/api/schema.d.ts"]),
  js.configs.recommended,
  {
    files: ["src/**/*.worklet.js"],
    languageOptions: { globals: { AudioWorkletProcessor: "readonly", registerProcessor: "readonly" } },
  },
  {
    files: ["src/**/*.{ts,tsx}"],
    extends: [tseslint.configs.recommendedTypeChecked, reactHooks.configs.flat["recommended-latest"]],
    languageOptions: { parserOptions: { projectService: true } },
    rules: {
      "@typescript-eslint/no-misused-promises": ["error", { checksVoidReturn: { attributes: false } }],
      "no-restricted-imports": ["error", { patterns: [] }],
      "max-lines": ["error", { max: 320, skipBlankLines: true }],
    },
  },
  {
    // What people read goes through `say` or `Trans`. A word alone and in small letters may be a key, so only the look at
    // the screens in the pseudo-language finds one that was missed. The page that checks reports brings its own words.
    files: ["src/**/*.{ts,tsx}"],
    ignores: ["src/**/*.test.{ts,tsx}", "src/**/*.d.ts", "src/testing/**", "src/verify/**"],
    plugins: { lingui },
    rules: {
      "lingui/no-unlocalized-strings": [
        "error",
        {
          ignore: [
            "^[^A-Za-z]*$",
            "^[^A-Z ]+$",
            "^[A-Z]$",
            "^(Hz|N·m|round [0-9.]+|M)$",
            "^(bikes|jobs|wheels)/",
            "^[a-z]+[A-Z][A-Za-z]+$",
            "^M.*A|^button, a",
            "^X-",
            "^[A-Z][A-Za-z0-9]*[A-Z0-9][A-Za-z0-9]*$",
            "^[a-z0-9:\\[\\]/.%()_!*&>#,\\- ]*-[a-z0-9:\\[\\]/.%()_!*&>#,\\- ]*$",
          ],
          ignoreNames: [
            { regex: { pattern: "[cC]lass(Name)?$|^(CLASS|LOOK|TONE|STYLE)" } },
            "id",
            "type",
            "d",
            "viewBox",
            "transform",
            "mode",
            "method",
            "rel",
            "points",
            "strokeDasharray",
            "role",
          ],
          ignoreFunctions: [
            "*.startsWith",
            "*.includes",
            "*.split",
            "*.matchMedia",
            "*.querySelector",
            "*.querySelectorAll",
            "*.addEventListener",
            "*.removeEventListener",
            "*.setItem",
            "*.getItem",
            "*.GET",
            "*.POST",
            "*.PUT",
            "*.PATCH",
            "*.DELETE",
            "*.set",
            "*.get",
            "Error",
            "Intl.*",
            "*.toLocaleString",
            "console.*",
            "keys.*",
          ],
        },
      ],
    },
  },
  {
    files: ["src/ui/**/*.{ts,tsx}", "src/strip/**/*.{ts,tsx}", "src/wheelmap/**/*.{ts,tsx}"],
    rules: { "no-restricted-imports": ["error", { patterns: ["@/features/*", "@/app/*"] }] },
  },
]);

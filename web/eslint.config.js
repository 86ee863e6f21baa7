import js from "@eslint/js";
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
    files: ["src/ui/**/*.{ts,tsx}", "src/strip/**/*.{ts,tsx}", "src/wheelmap/**/*.{ts,tsx}"],
    rules: { "no-restricted-imports": ["error", { patterns: ["@/features/*", "@/app/*"] }] },
  },
]);

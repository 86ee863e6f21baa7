/** The page that checks a report, as one file without a network: script and style stand in it, and nothing else may run. */
import { createHash } from "node:crypto";
import { readFileSync } from "node:fs";
import { defineConfig, type Plugin } from "vite";

const here = (path: string) => new URL(path, import.meta.url).pathname;

function hashOf(text: string): string {
  return `'sha256-${createHash("sha256").update(text).digest("base64")}'`;
}

function oneFile(): Plugin {
  return {
    name: "one-file",
    generateBundle(_options, bundle) {
      const chunk = Object.values(bundle).find((part) => part.type === "chunk");
      if (!chunk) throw new Error("nothing was built");
      // "</script" inside the code would end it.
      const script = chunk.code.replaceAll("</", "<\\/");
      const style = readFileSync(here("src/verify/page.css"), "utf8");
      const policy = `default-src 'none'; script-src ${hashOf(script)}; style-src ${hashOf(style)}`;
      const source = readFileSync(here("src/verify/page.html"), "utf8")
        .replace("__POLICY__", () => policy)
        .replace("<!--style-->", () => `<style>${style}</style>`)
        .replace("<!--script-->", () => `<script>${script}</script>`);
      delete bundle[chunk.fileName];
      this.emitFile({ type: "asset", fileName: "check-report.html", source });
    },
  };
}

export default defineConfig({
  plugins: [oneFile()],
  resolve: { alias: { "@": here("src") } },
  build: {
    emptyOutDir: false,
    lib: { entry: here("src/verify/page.ts"), formats: ["iife"], name: "check" },
  },
});

import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { readFileSync } from "node:fs";
import { defineConfig, type Plugin } from "vite";

/** The typefaces' licence ships with the typefaces. */
function typefacesLicence(): Plugin {
  const fonts = ["next", "mono"].map((name) => `@fontsource-variable/atkinson-hyperlegible-${name}`);
  return {
    name: "typefaces-licence",
    apply: "build",
    generateBundle() {
      const texts = fonts.map((font) =>
        readFileSync(new URL(`./node_modules/${font}/LICENSE`, import.meta.url), "utf8"),
      );
      this.emitFile({ type: "asset", fileName: "assets/typefaces-licence.txt", source: texts.join("\n\n") });
    },
  };
}

// The built page is rendered by Django, which fills in the nonce of each response.
export default defineConfig(({ command }) => ({
  base: command === "build" ? "/static/" : "/",
  plugins: [react(), tailwindcss(), typefacesLicence()],
  build: { manifest: true, assetsInlineLimit: 0 },
  html: command === "build" ? { cspNonce: "{{ request.csp_nonce }}" } : {},
  resolve: { alias: { "@": new URL("./src", import.meta.url).pathname } },
  server: { proxy: { "/api": "http://127.0.0.1:8460" } },
}));

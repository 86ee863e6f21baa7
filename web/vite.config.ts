import { lingui } from "@lingui/vite-plugin";
import babel from "@rolldown/plugin-babel";
import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { createHash } from "node:crypto";
import { readFileSync, writeFileSync } from "node:fs";
import { VitePWA } from "vite-plugin-pwa";
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

/** What the page says becomes messages; English stays in the code, so only another language costs a catalogue. */
export const messages = () =>
  babel({ plugins: [["@lingui/babel-plugin-lingui-macro", { stripMessageField: false }]] });

/** The application is loaded after its words are chosen; the browser is told of it beforehand, and of the rail, so nothing waits. */
function applicationAhead(): Plugin {
  let [file, script] = ["", ""];
  return {
    name: "application-ahead",
    apply: "build",
    transformIndexHtml: {
      order: "post",
      handler(_html, { bundle = {} }) {
        const chunks = Object.values(bundle).filter((part) => part.type === "chunk");
        const entry = chunks.find((part) => part.isEntry);
        const filesOf = (module: string) => {
          const found = chunks.find((part) => part.facadeModuleId?.endsWith(module));
          return found ? [found.fileName, ...found.imports].filter((name) => name !== entry?.fileName) : [];
        };
        const app = filesOf("/src/app/App.tsx");
        const rail = filesOf("/src/features/queue/Rail.tsx").filter((name) => !app.includes(name));
        script = readFileSync(new URL("./src/app/ahead.page.js", import.meta.url), "utf8")
          .replaceAll(/^\s*\/[/*].*\n/gm, "")
          .replace("CHUNKS_OF_THE_RAIL", JSON.stringify(rail.map((name) => `/static/${name}`)));
        file = `assets/ahead-${createHash("sha256").update(script).digest("hex").slice(0, 8)}.js`;
        return [
          // Who is not signed in has no rail to be asked for ahead.
          {
            tag: "meta",
            attrs: { name: "felloe-known", content: "{% if request.COOKIES.sessionid %}yes{% endif %}" },
            injectTo: "head-prepend" as const,
          },
          {
            tag: "script",
            attrs: { async: true, type: "module", src: `/static/${file}` },
            injectTo: "head-prepend" as const,
          },
          ...app.map((name) => ({
            tag: "link",
            attrs: { rel: "modulepreload", crossorigin: true, href: `/static/${name}` },
            injectTo: "head" as const,
          })),
        ];
      },
    },
    writeBundle({ dir = "dist" }) {
      writeFileSync(`${dir}/${file}`, script);
    },
  };
}

// The built page is rendered by Django, which fills in the nonce of each response.
export default defineConfig(({ command }) => ({
  base: command === "build" ? "/static/" : "/",
  plugins: [
    messages(),
    lingui({ failOnMissing: true }),
    react(),
    tailwindcss(),
    typefacesLicence(),
    applicationAhead(),
    VitePWA({
      // Ours is small and says what it keeps; it is served at the root, where it is heard for every screen.
      strategies: "injectManifest",
      srcDir: "src/offline",
      filename: "sw.ts",
      injectRegister: false,
      injectManifest: {
        globPatterns: ["assets/**/*.{js,css,woff2,svg}"],
        modifyURLPrefix: { "assets/": "/static/assets/" },
        dontCacheBustURLsMatching: /-[\w-]{8}\./,
      },
      manifest: {
        name: "Felloe",
        short_name: "Felloe",
        description: "The wheel bench of a bicycle shop",
        start_url: "/",
        scope: "/",
        display: "standalone",
        background_color: "#12343b",
        theme_color: "#12343b",
        icons: [{ src: "/static/mark.svg", sizes: "any", type: "image/svg+xml", purpose: "any" }],
      },
    }),
  ],
  build: { manifest: true, assetsInlineLimit: 0 },
  html: command === "build" ? { cspNonce: "{{ request.csp_nonce }}" } : {},
  resolve: { alias: { "@": new URL("./src", import.meta.url).pathname } },
  server: { proxy: { "/api": "http://127.0.0.1:8460" } },
}));

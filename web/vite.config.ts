import type Babel from "@babel/core";
import { compileMessage } from "@lingui/message-utils/compileMessage";
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
  babel({ plugins: [["@lingui/babel-plugin-lingui-macro", { stripMessageField: false }], understood] });

/** The English in the code is understood when the page is built, as a catalogue is: nothing is left to parse on a tablet. */
function understood({ types: t }: typeof Babel): Babel.PluginObject {
  const isName = (node: Babel.types.Node, name: string) =>
    t.isIdentifier(node, { name }) || t.isJSXIdentifier(node, { name });
  const words = (text: string) => t.valueToNode(compileMessage(text));
  return {
    visitor: {
      // Once the macros have made messages of it.
      Program: {
        exit(program) {
          program.traverse({
            ObjectExpression({ node }) {
              const own = node.properties.filter((property) => t.isObjectProperty(property));
              const message = own.find(({ key }) => isName(key, "message"));
              if (t.isStringLiteral(message?.value) && own.some(({ key }) => isName(key, "id")))
                message.value = words(message.value.value);
            },
            JSXOpeningElement({ node }) {
              const own = node.attributes.filter((attribute) => t.isJSXAttribute(attribute));
              const message = own.find(({ name }) => isName(name, "message"));
              const value = t.isJSXExpressionContainer(message?.value)
                ? message.value.expression
                : message?.value;
              if (message && t.isStringLiteral(value) && own.some(({ name }) => isName(name, "id")))
                message.value = t.jsxExpressionContainer(words(value.value));
            },
          });
        },
      },
    },
  };
}

/** The application is loaded after its words are chosen; the browser is told of it beforehand, so nothing waits. */
function applicationAhead(): Plugin {
  let [file, script] = ["", ""];
  return {
    name: "application-ahead",
    apply: "build",
    transformIndexHtml: {
      order: "post",
      handler(_html, { bundle = {} }) {
        const chunks = Object.values(bundle).filter((part) => part.type === "chunk");
        const rail = chunks.find((part) => part.moduleIds.some((id) => id.endsWith("/src/app/App.tsx")));
        const entry = chunks.find((part) => part.isEntry);
        const ahead = rail ? [rail.fileName, ...rail.imports].filter((name) => name !== entry?.fileName) : [];
        script = readFileSync(new URL("./src/app/ahead.page.js", import.meta.url), "utf8").replaceAll(
          /^\s*\/[/*].*\n/gm,
          "",
        );
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
          ...ahead.map((name) => ({
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

interface Modules {
  getModuleInfo(id: string): { importedIds: readonly string[] } | null;
}

/** What a module brings along: all that it imports, and so on. */
function broughtBy(ids: readonly string[], modules: Modules, found = new Set<string>()): Set<string> {
  for (const id of ids) {
    if (found.has(id)) continue;
    found.add(id);
    broughtBy(modules.getModuleInfo(id)?.importedIds ?? [], modules, found);
  }
  return found;
}

/** What opens menus is fetched when somebody comes near one (ui/OpenMenu.tsx); Radix's front door names it all the same. */
const LATER = /@floating-ui\/|@radix-ui\/react-(dropdown-menu|menu|popper)\//;

const source = (path: string) => new URL(`./src/${path}`, import.meta.url).pathname;

/** What the rail needs comes in two files instead of twenty: each asks the way there and back, and small ones compress badly. */
function ofTheRail(id: string, modules: Modules): string | null {
  const before = broughtBy([source("main.tsx")], modules);
  if (before.has(id) || LATER.test(id)) return null;
  return broughtBy([source("app/App.tsx"), source("features/queue/Rail.tsx")], modules).has(id)
    ? "rail"
    : null;
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
  build: {
    manifest: true,
    assetsInlineLimit: 0,
    rolldownOptions: {
      output: { codeSplitting: { includeDependenciesRecursively: false, groups: [{ name: ofTheRail }] } },
    },
  },
  html: command === "build" ? { cspNonce: "{{ request.csp_nonce }}" } : {},
  resolve: { alias: { "@": new URL("./src", import.meta.url).pathname } },
  server: { proxy: { "/api": "http://127.0.0.1:8460" } },
}));

import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

// The built page is rendered by Django, which fills in the nonce of each response.
export default defineConfig(({ command }) => ({
  base: command === "build" ? "/static/" : "/",
  plugins: [react(), tailwindcss()],
  build: { manifest: true, assetsInlineLimit: 0 },
  html: command === "build" ? { cspNonce: "{{ request.csp_nonce }}" } : {},
  resolve: { alias: { "@": new URL("./src", import.meta.url).pathname } },
  server: { proxy: { "/api": "http://127.0.0.1:8460" } },
}));

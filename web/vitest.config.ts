import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";
import { messages } from "./vite.config";

// The page's own logic, without a browser; the real interface is tested in Chromium, see tests/e2e.
export default defineConfig({
  plugins: [messages(), react()],
  resolve: { alias: { "@": new URL("./src", import.meta.url).pathname } },
  test: {
    include: ["src/**/*.test.{ts,tsx}"],
    setupFiles: ["src/testing/english.ts"],
    environment: "node",
    restoreMocks: true,
    unstubGlobals: true,
  },
});

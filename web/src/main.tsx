import { i18n } from "@lingui/core";
import { setNonce } from "get-nonce";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { knownAhead } from "@/api/ahead";
import { speak } from "@/app/language";
import { Speaking } from "@/app/Speaking";
import { applyStoredTheme } from "@/app/theme";
import { keepApplication } from "@/offline/register";
import "@/app/tokens.css";
import "@/typefaces/typefaces.css";

// Radix adds style elements at run time: they need the page's nonce to pass the content security policy.
const nonce = document.querySelector<HTMLMetaElement>('meta[property="csp-nonce"]')?.nonce;
if (nonce) setNonce(nonce);
applyStoredTheme();

// The words of the page are chosen once, before any of its modules says one.
async function start(root: HTMLElement) {
  await speak();
  const { App, queries, railReady } = await import("@/app/App");
  // Where it cannot be had, the screen says so itself.
  if (window.location.pathname === "/") await railReady().catch(() => undefined);
  await knownAhead(queries, i18n.locale);
  createRoot(root).render(
    <StrictMode>
      <Speaking>
        <App />
      </Speaking>
    </StrictMode>,
  );
}

const root = document.getElementById("root");
if (root) void start(root);
keepApplication();

import "@fontsource-variable/atkinson-hyperlegible-mono/wght.css";
import "@fontsource-variable/atkinson-hyperlegible-next/wght.css";
import { setNonce } from "get-nonce";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { config } from "zod";
import { App } from "@/app/App";
import { applyStoredTheme } from "@/app/theme";
import "@/app/tokens.css";

// Radix adds style elements at run time: they need the page's nonce to pass the content security policy.
const nonce = document.querySelector<HTMLMetaElement>('meta[property="csp-nonce"]')?.nonce;
if (nonce) setNonce(nonce);
applyStoredTheme();
// Without it zod probes `new Function`, which the content security policy forbids.
config({ jitless: true });

const root = document.getElementById("root");
if (root) {
  createRoot(root).render(
    <StrictMode>
      <App />
    </StrictMode>,
  );
}

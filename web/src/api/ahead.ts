import type { QueryClient } from "@tanstack/react-query";
import { keys } from "./keys";

declare global {
  interface Window {
    /** What `app/ahead.page.js` asked for, by path. */
    felloeAhead?: Record<string, Promise<Response>>;
  }
}

/** After so long since the page began, what it asked first is no answer any more. */
const FRESH_MS = 20_000;
const ASKED = {
  "/api/v1/session": keys.session(),
  "/api/v1/rail": keys.rail(),
  "/api/v1/trade": keys.trade(),
} as const;

/** What was asked for ahead, taken once: nothing where it failed, is too old, or speaks another language. */
async function taken(path: string, language: string | null): Promise<Response | undefined> {
  const ahead = window.felloeAhead;
  const asked = ahead?.[path];
  if (!ahead || !asked) return undefined;
  Reflect.deleteProperty(ahead, path);
  try {
    const found = await asked;
    const speaks = found.headers.get("Content-Language") === language;
    return found.ok && speaks && performance.now() < FRESH_MS ? found : undefined;
  } catch {
    // It is asked again, and says itself what is wrong.
    return undefined;
  }
}

/** Fetch; what the page asked for before its other scripts were there is taken from there. */
export async function fetchAhead(request: Request): Promise<Response> {
  const path = new URL(request.url).pathname;
  const found =
    request.method === "GET" ? await taken(path, request.headers.get("Accept-Language")) : undefined;
  return found ?? fetch(request);
}

/** Put what has come already where the screens look for it, so that the first that is drawn is the rail itself. */
export async function knownAhead(queries: QueryClient, language: string): Promise<void> {
  for (const [path, key] of Object.entries(ASKED)) {
    const asked = window.felloeAhead?.[path];
    if (!asked || !(await isThere(asked))) return;
    const found = await taken(path, language);
    if (!found) return;
    try {
      queries.setQueryData(key, await found.json());
    } catch {
      return;
    }
  }
}

/** Whether a promise is kept already; nobody waits for one that is not. */
function isThere(asked: Promise<unknown>): Promise<boolean> {
  const there = asked.then(
    () => true,
    () => false,
  );
  return Promise.race([there, new Promise<boolean>((tell) => setTimeout(tell, 0, false))]);
}

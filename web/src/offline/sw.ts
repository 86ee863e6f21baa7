/// <reference lib="webworker" />
import {
  addRoute,
  cleanupOutdatedCaches,
  matchPrecache,
  precache,
  type PrecacheEntry,
} from "workbox-precaching";
import { NavigationRoute, registerRoute } from "workbox-routing";

declare const self: ServiceWorkerGlobalScope & { __WB_MANIFEST: (PrecacheEntry | string)[] };

/**
 * The whole application, kept on the tablet when it is first opened: each version with the page that belongs to it, so that
 * what is opened off the net is always one piece. Data is not kept here; an answer of the server is never made up.
 */
const manifest = self.__WB_MANIFEST;
const version = manifest.map((entry) => (typeof entry === "string" ? entry : entry.url)).join();
precache([
  ...manifest,
  // The page itself is made by the server; another version of the application asks for it anew.
  { url: "/", revision: digest(version) },
]);
cleanupOutdatedCaches();
// The page that brought the first version is carried by it at once; a later version waits until the one before it is closed.
self.addEventListener("activate", (event) => event.waitUntil(self.clients.claim()));

const PATIENCE_MS = 6_000;
const late = () => new Promise<Response>((_, reject) => setTimeout(reject, PATIENCE_MS, new Error("late")));
registerRoute(
  new NavigationRoute(
    async ({ request }) => {
      const kept = await matchPrecache("/");
      try {
        // On a net that is hardly there the page that is kept comes first; it asks by itself for what is new.
        const answer = await (kept ? Promise.race([fetch(request), late()]) : fetch(request));
        // Nobody of Felloe's between here and the server: a gateway's own page of errors is no screen.
        if (answer.status < 500) return answer;
      } catch {
        // off the net
      }
      return kept ?? Response.error();
    },
    // What the server draws itself is not the application.
    { denylist: [/^\/(api|w|calendar|static|live)\//] },
  ),
);
// After it: a page is asked for on the net first, its parts never are.
addRoute();

/** A short mark of a text (FNV-1a): it only has to differ. */
function digest(text: string): string {
  let mark = 0x811c9dc5;
  for (let i = 0; i < text.length; i += 1) mark = Math.imul(mark ^ text.charCodeAt(i), 0x01000193);
  return (mark >>> 0).toString(16);
}

declare global {
  interface Window {
    /** What `app/ahead.inline.js` asked for, by path. */
    felloeAhead?: Record<string, Promise<Response>>;
  }
}

/** After so long since the page began, what it asked first is no answer any more. */
const FRESH_MS = 20_000;

/** Fetch; what the page itself asked for before its scripts were there is taken from there, once, if it speaks the language. */
export async function fetchAhead(request: Request): Promise<Response> {
  const ahead = window.felloeAhead;
  const path = new URL(request.url).pathname;
  const asked = request.method === "GET" ? ahead?.[path] : undefined;
  if (!ahead || !asked) return fetch(request);
  Reflect.deleteProperty(ahead, path);
  try {
    const found = await asked;
    const speaks = found.headers.get("Content-Language") === request.headers.get("Accept-Language");
    if (found.ok && speaks && performance.now() < FRESH_MS) return found;
  } catch {
    // It is asked again, and says itself what is wrong.
  }
  return fetch(request);
}

import { i18n } from "@lingui/core";
import createClient, { type Middleware } from "openapi-fetch";
import { fetchAhead } from "./ahead";
import { failureOf, Unreachable } from "./problem";
import type { components, paths } from "./schema";

export type Schemas = components["schemas"];

function cookie(name: string): string {
  const found = document.cookie.split("; ").find((part) => part.startsWith(`${name}=`));
  return found ? decodeURIComponent(found.slice(name.length + 1)) : "";
}

let person = "";

/** Whom this tab takes to be signed in. Every write says so, and the server refuses it where somebody else has signed in since. */
export function speaksFor(personId: string): void {
  person = personId;
}

/** This page's name, for as long as it is open: what it wrote itself it need not be told of. */
export const thisTab = writeKey();

/** What every request carries: the language that the page is in. */
const asked = () => ({ "Accept-Language": i18n.locale });

/** What every write carries beside its body. */
export function writeHeaders(by = person): Record<string, string> {
  return {
    ...asked(),
    "X-CSRFToken": cookie("csrftoken"),
    "X-Felloe-Tab": thisTab,
    ...(by ? { "X-Felloe-Person": by } : {}),
  };
}

const shopRules: Middleware = {
  onRequest({ request }) {
    const headers = request.method === "GET" ? asked() : writeHeaders();
    for (const [name, value] of Object.entries(headers)) request.headers.set(name, value);
    return request;
  },
  onError() {
    return new Unreachable();
  },
};

export const client = createClient<paths>({ baseUrl: "/", credentials: "same-origin", fetch: fetchAhead });
client.use(shopRules);

/** A new key for a write: the same key sent again is never carried out twice. */
export function writeKey(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  return Array.from(bytes, (b) => b.toString(16).padStart(2, "0")).join("");
}

/** A name for a row that is made on the tablet: a random UUID, also where the page came by plain HTTP. */
export function newId(): string {
  const hex = [...writeKey()];
  hex[12] = "4";
  hex[16] = "89ab".charAt(parseInt(hex[16] ?? "0", 16) % 4);
  const part = (from: number, to: number) => hex.slice(from, to).join("");
  return [part(0, 8), part(8, 12), part(12, 16), part(16, 20), part(20, 32)].join("-");
}

/** Unwrap an answer: the data, or a Problem, Unreachable or ServerFault. */
export async function answer<T>(
  call: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<T> {
  const { data, error, response } = await call;
  if (!response.ok) throw failureOf(response, error);
  return data as T;
}

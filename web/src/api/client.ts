import createClient, { type Middleware } from "openapi-fetch";
import type { components, paths } from "./schema";
import { Problem, Unreachable } from "./problem";

export type Schemas = components["schemas"];

function cookie(name: string): string {
  const found = document.cookie.split("; ").find((part) => part.startsWith(`${name}=`));
  return found ? decodeURIComponent(found.slice(name.length + 1)) : "";
}

const shopRules: Middleware = {
  onRequest({ request }) {
    if (request.method !== "GET") request.headers.set("X-CSRFToken", cookie("csrftoken"));
    return request;
  },
  onError() {
    return new Unreachable();
  },
};

export const client = createClient<paths>({ baseUrl: "/", credentials: "same-origin" });
client.use(shopRules);

/** A new key for a write: the same key sent again is never carried out twice. */
export function writeKey(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  return Array.from(bytes, (b) => b.toString(16).padStart(2, "0")).join("");
}

/** Unwrap an answer: the data, or a Problem. */
export async function answer<T>(
  call: Promise<{ data?: T; error?: unknown; response: Response }>,
): Promise<T> {
  const { data, error, response } = await call;
  if (!response.ok) throw new Problem(response.status, error);
  return data as T;
}

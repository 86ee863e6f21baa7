import { writeHeaders } from "@/api/client";
import { failureOf, isSessionOver, Problem, sentenceOf, ServerFault, Unreachable } from "@/api/problem";
import { deedOf } from "./deeds";
import type { Entry } from "./entry";

/** What became of one entry: Felloe's own refusal, or its answer. */
export interface Result {
  entry: Entry;
  answer?: unknown;
  refusal?: { code: string; message: string };
}

/** What stands against sending: refused by Felloe, not just now, nobody there, or nobody signed in. */
export type Hindrance = "refused" | "stuck" | "away" | "shut";

async function sent(path: string, method: string, first: Entry, body: unknown): Promise<unknown> {
  let response: Response;
  try {
    response = await fetch(
      new Request(path, {
        method,
        headers: {
          "Content-Type": "application/json",
          "Idempotency-Key": first.key,
          ...writeHeaders(first.by),
        },
        body: JSON.stringify(body),
        credentials: "same-origin",
      }),
    );
  } catch {
    throw new Unreachable();
  }
  const found: unknown = await response.json().catch(() => undefined);
  if (!response.ok) throw failureOf(response, found);
  // A page that asks for a Wi-Fi password answers 200 as well.
  if (!response.headers.has("X-Felloe")) throw new Unreachable(response.status);
  return found;
}

/** Send entries in one request; they are of one deed and one target, and more than one only where the deed goes together. */
export async function ask(entries: readonly [Entry, ...Entry[]]): Promise<Result[]> {
  const [first] = entries;
  const how = deedOf(first.deed);
  const together = how.together;
  if (!together) {
    const answer = await sent(how.path(first.target), how.method, first, first.body);
    return [{ entry: first, answer }];
  }
  const found = await sent(how.path(first.target), how.method, first, together.body(entries));
  const results = together.results(found);
  return entries.flatMap((entry) => {
    const result = results.find((one) => one.key === entry.key);
    return result ? [{ ...result, entry }] : [];
  });
}

export function hindranceOf(error: unknown): Hindrance {
  if (isSessionOver(error)) return "shut";
  if (error instanceof Problem && ![408, 425, 429].includes(error.status)) return "refused";
  if (error instanceof ServerFault || error instanceof Problem) return "stuck";
  if (error instanceof Unreachable && error.status !== undefined) return "stuck";
  if (!(error instanceof Unreachable)) console.warn(sentenceOf(error));
  return "away";
}

/** Asking who is signed in sets the cookie anew. */
export async function newCookie(): Promise<boolean> {
  return fetch(new Request("/api/v1/session", { credentials: "same-origin" })).then(
    (response) => response.ok,
    () => false,
  );
}

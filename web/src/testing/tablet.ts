import { vi } from "vitest";

/** A tablet's storage, in memory. */
export class Storage {
  readonly kept = new Map<string, string>();

  getItem(name: string): string | null {
    return this.kept.get(name) ?? null;
  }
  setItem(name: string, value: string): void {
    this.kept.set(name, value);
  }
  removeItem(name: string): void {
    this.kept.delete(name);
  }
}

/** `Object.keys(localStorage)` names what is kept; so does this. */
export function storage(entries: Record<string, string> = {}): Storage {
  const inner = new Storage();
  for (const [name, value] of Object.entries(entries)) inner.setItem(name, value);
  return new Proxy(inner, {
    ownKeys: (target) => [...target.kept.keys()],
    getOwnPropertyDescriptor: (target, name) =>
      typeof name === "string" && target.kept.has(name)
        ? { enumerable: true, configurable: true, value: target.kept.get(name) }
        : undefined,
    get: (target, name) => {
      const value: unknown = Reflect.get(target, name);
      return typeof value === "function" ? (value as (...args: unknown[]) => unknown).bind(target) : value;
    },
  });
}

export interface Sent {
  /** Those of one request have the same number. */
  request: number;
  url: string;
  method: string;
  key: string | null;
  csrf: string | null;
  body: Record<string, unknown>;
}

type Reply = (sent: readonly Sent[]) => Response;

/** What one request carries: readings that go together each by themselves, everything else as it is. */
export async function carried(request: Request, number = 0): Promise<Sent[]> {
  const body = request.method === "GET" ? {} : ((await request.clone().json()) as Record<string, unknown>);
  const entries = body["entries"] as { key: string; entry: Record<string, unknown> }[] | undefined;
  const whole = { key: request.headers.get("Idempotency-Key"), body };
  return (entries?.map((one) => ({ key: one.key, body: one.entry })) ?? [whole]).map((one) => ({
    request: number,
    url: new URL(request.url).pathname,
    method: request.method,
    csrf: request.headers.get("X-CSRFToken"),
    ...one,
  }));
}

/** A server that answers in the order given, and then with the last answer again and again. */
export function server(...replies: Reply[]): Sent[] {
  const sent: Sent[] = [];
  let requests = 0;
  vi.stubGlobal("fetch", async (request: Request) => {
    requests += 1;
    const now = await carried(request, requests);
    sent.push(...now);
    const reply = replies.length > 1 ? replies.shift() : replies[0];
    if (!reply) throw new Error("the server was asked and nothing was said");
    return reply(now);
  });
  return sent;
}

/** All that was sent together is saved, but for what `refused` names: its code, by spoke. */
export function saves(refused: Record<string, string> = {}): Reply {
  return (sent) => {
    const results = sent.map(({ key, body }) => {
      const code = refused[String(body["spoke"])];
      return {
        key,
        reading: code ? null : { id: key, ...body, entered: body },
        refusal: code ? { code, status: 422, detail: `It says ${code}.` } : null,
      };
    });
    return says(200, { results, state: { of: sent.length }, advice: { of: sent.length } })();
  };
}

export const down = (): never => {
  throw new TypeError("Failed to fetch");
};

export function says(status: number, body: unknown): () => Response {
  return () =>
    new Response(JSON.stringify(body), {
      status,
      headers: { "Content-Type": "application/json", "X-Felloe": "1" },
    });
}

/** Felloe's own refusal or fault. */
export function refuses(status: number, code: string): () => Response {
  return () =>
    new Response(
      JSON.stringify({ type: `urn:felloe:problem:${code}`, detail: `It says ${code}.`, errors: [] }),
      { status, headers: { "Content-Type": "application/problem+json", "X-Felloe": "1" } },
    );
}

/** What stands between the tablet and Felloe answers, in its own words. */
export function between(status: number): () => Response {
  return () => new Response("<html>no</html>", { status, headers: { "Content-Type": "text/html" } });
}

/** What a page stands on, as far as the code without drawing needs it. */
export function stubTablet(kept: Storage, cookie = "csrftoken=abc%3D"): Map<string, () => void> {
  const heard = new Map<string, () => void>();
  // The page asks for paths of its own origin; without a page there is none.
  const Whole = class extends Request {
    constructor(path: string, init?: RequestInit) {
      super(new URL(path, "http://shop.test"), init);
    }
  };
  vi.stubGlobal("Request", Whole);
  vi.stubGlobal("localStorage", kept);
  vi.stubGlobal("document", { cookie });
  vi.stubGlobal("window", {
    addEventListener: (name: string, then: () => void) => heard.set(name, then),
    setTimeout: (then: () => void, ms: number) => setTimeout(then, ms),
    clearTimeout: (timer: ReturnType<typeof setTimeout> | undefined) => clearTimeout(timer),
  });
  return heard;
}

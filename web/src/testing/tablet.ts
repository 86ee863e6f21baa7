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
  url: string;
  method: string;
  key: string | null;
  csrf: string | null;
  body: Record<string, unknown>;
}

type Reply = () => Response;

/** A server that answers in the order given, and then with the last answer again and again. */
export function server(...replies: Reply[]): Sent[] {
  const sent: Sent[] = [];
  vi.stubGlobal("fetch", async (request: Request) => {
    const body = request.method === "GET" ? {} : ((await request.clone().json()) as Record<string, unknown>);
    sent.push({
      url: new URL(request.url).pathname,
      method: request.method,
      key: request.headers.get("Idempotency-Key"),
      csrf: request.headers.get("X-CSRFToken"),
      body,
    });
    const reply = replies.length > 1 ? replies.shift() : replies[0];
    if (!reply) throw new Error("the server was asked and nothing was said");
    return reply();
  });
  return sent;
}

export const down: Reply = () => {
  throw new TypeError("Failed to fetch");
};

export function says(status: number, body: unknown): Reply {
  return () =>
    new Response(JSON.stringify(body), {
      status,
      headers: { "Content-Type": "application/json", "X-Felloe": "1" },
    });
}

/** Felloe's own refusal or fault. */
export function refuses(status: number, code: string): Reply {
  return () =>
    new Response(
      JSON.stringify({ type: `urn:felloe:problem:${code}`, detail: `It says ${code}.`, errors: [] }),
      { status, headers: { "Content-Type": "application/problem+json", "X-Felloe": "1" } },
    );
}

/** What stands between the tablet and Felloe answers, in its own words. */
export function between(status: number): Reply {
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

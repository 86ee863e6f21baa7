import type { QueryClient } from "@tanstack/react-query";
import { thisTab } from "@/api/client";
import { type Key, keys, touches } from "@/api/keys";

/** What changed, as the live process says it. */
export interface Change {
  id: number;
  topic: string;
  job?: string;
  reading_set?: string;
  plan?: string;
  spoke?: string;
  by?: string;
  tab?: string;
  at: string;
}

/** Who else has this wheel open, and which of its screens. */
export interface Here {
  person: string;
  name: string;
  at: string;
}

/** Changes of one breath are asked for together; the rail, which is large, less often. */
const BREATH_MS = 150;
const RAIL_MS = 800;
const FIRST_AGAIN_MS = 1000;
const LONGEST_AGAIN_MS = 30_000;

/** What a change makes stale. */
export function staleAfter(change: Change): Key[] {
  const job = change.job ? [keys.job(change.job)] : [];
  switch (change.topic) {
    case "job":
      return [...job, keys.rail(), keys.lots()];
    case "set":
      return [...job, keys.lots(), ...(change.reading_set ? [keys.set(change.reading_set)] : [])];
    case "look":
    case "move":
      return [["plan"], ...(change.reading_set ? [keys.set(change.reading_set)] : [])];
    case "stock":
      return [keys.stock()];
    case "customer":
      return touches.customer();
    case "wheel":
      return [["job"], ["bike"]];
    case "places":
      return touches.places();
    case "rail":
      return [keys.rail()];
    case "tiers":
      return touches.tiers();
    case "instruments":
      return touches.instruments();
    case "shop":
      return touches.shop();
    default:
      return [[]];
  }
}

/** Ask anew, gently: what this page wrote itself it knows already. */
export function asker(queries: QueryClient): (changes: readonly Change[]) => void {
  let waiting = new Map<string, Key>();
  let timer: ReturnType<typeof setTimeout> | undefined;
  let railAt = 0;
  const flush = () => {
    const due = waiting;
    waiting = new Map();
    timer = undefined;
    const rail = JSON.stringify(keys.rail());
    const wait = railAt + RAIL_MS - Date.now();
    if (due.has(rail) && wait > 0) {
      waiting.set(rail, keys.rail());
      due.delete(rail);
      timer = setTimeout(flush, wait);
    } else if (due.has(rail)) railAt = Date.now();
    for (const queryKey of due.values()) void queries.invalidateQueries({ queryKey });
  };
  return (changes) => {
    for (const change of changes) {
      if (change.tab === thisTab) continue;
      for (const key of staleAfter(change)) waiting.set(JSON.stringify(key), key);
    }
    if (waiting.size > 0) timer ??= setTimeout(flush, BREATH_MS);
  };
}

interface Listening {
  address: string;
  since: string;
  job: string;
  at: string;
  onChanges: (changes: Change[]) => void;
  /** Nobody knows what was missed: everything on the screen is to be asked anew. */
  onAnew: () => void;
  onHere: (here: Here[]) => void;
  onMoment: (moment: string) => void;
}

/** Listen until stopped. The browser takes up a broken stream by itself; what ends for good is begun again, ever later. */
export function listen(to: Listening): () => void {
  let source: EventSource | undefined;
  let again: ReturnType<typeof setTimeout> | undefined;
  let wait = FIRST_AGAIN_MS;
  let moment = to.since;
  const start = () => {
    const asked = new URLSearchParams({ since: moment, job: to.job, at: to.at, tab: thisTab });
    source = new EventSource(`${to.address}?${asked.toString()}`, { withCredentials: true });
    source.onopen = () => (wait = FIRST_AGAIN_MS);
    source.onerror = () => {
      to.onHere([]);
      if (source?.readyState !== EventSource.CLOSED) return;
      again = setTimeout(start, wait);
      wait = Math.min(2 * wait, LONGEST_AGAIN_MS);
    };
    const hear = (kind: string, act: (data: unknown) => void) =>
      source?.addEventListener(kind, (event: MessageEvent<string>) => {
        if (event.lastEventId) to.onMoment((moment = event.lastEventId));
        act(JSON.parse(event.data));
      });
    hear("changed", (data) => to.onChanges(data as Change[]));
    hear("anew", () => to.onAnew());
    hear("here", (data) => to.onHere(data as Here[]));
  };
  start();
  return () => {
    clearTimeout(again);
    source?.close();
  };
}

/** Where the live process is heard: a path of this address, or a port of this host. Empty: nowhere. */
export function liveAddress(said: string, page: { protocol: string; hostname: string }): string {
  if (said.startsWith(":")) return `${page.protocol}//${page.hostname}${said}/live`;
  return said;
}

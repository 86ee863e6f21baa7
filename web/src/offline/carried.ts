import type { Query } from "@tanstack/react-query";
import type { PersistedClient, Persister } from "@tanstack/react-query-persist-client";
import { Unreachable } from "@/api/problem";
import { type DBSchema, type IDBPDatabase, openDB } from "idb";

/**
 * What this tablet knows of the shop, kept in its IndexedDB for when the net is away: the answers that its screens showed.
 * They belong to the person who asked, and go when that person signs out.
 */
interface Carried extends DBSchema {
  client: { key: "client"; value: PersistedClient };
}

/** Another one where answers of before can no longer be drawn. */
export const CARRIED_FORM = "2";
/** So long what was carried is shown: an older wheel is another wheel. */
export const CARRIED_MS = 7 * 24 * 3600 * 1000;
/** The mark of what came from the disk and was not heard from the server since. */
export const FROM_DISK = 1;
/** Answers come in bursts; the disk is asked after them. */
const REST_MS = 1_500;

let opened: Promise<IDBPDatabase<Carried>> | undefined;
function shelf(): Promise<IDBPDatabase<Carried>> {
  opened ??= openDB<Carried>("felloe-carried", 1, {
    upgrade(db) {
      db.createObjectStore("client");
    },
    terminated() {
      opened = undefined;
    },
  }).catch((error: unknown) => {
    opened = undefined;
    throw error;
  });
  return opened;
}

let waiting: PersistedClient | undefined;
/** Signed out: what this page still hears is written nowhere. */
let shut = false;
let timer: ReturnType<typeof setTimeout> | undefined;

async function write(): Promise<void> {
  timer = undefined;
  const client = waiting;
  waiting = undefined;
  if (!client) return;
  try {
    await (await shelf()).put("client", client, "client");
  } catch {
    // A full or shut disk carries nothing; the screens work on with what they have.
  }
}

export const carrier: Persister = {
  persistClient(client) {
    if (shut) return;
    // An error is no data, and not everything of it can be written.
    const queries = client.clientState.queries.map((query) => ({
      ...query,
      state: { ...query.state, error: null, fetchFailureReason: null },
    }));
    waiting = { ...client, clientState: { mutations: [], queries } };
    timer ??= setTimeout(() => void write(), REST_MS);
  },
  async restoreClient() {
    try {
      const client = await (await shelf()).get("client", "client");
      // By no clock: whatever comes from the disk is old, and is asked for anew where anybody answers.
      for (const { state } of client?.clientState.queries ?? [])
        Object.assign(state, {
          dataUpdatedAt: FROM_DISK,
          status: "success",
          // Also what holds for as long as a page is open: words of another language, or of the version before this.
          isInvalidated: true,
          error: null,
          fetchFailureReason: null,
        });
      return client;
    } catch {
      return undefined;
    }
  },
  async removeClient() {
    clearTimeout(timer);
    timer = waiting = undefined;
    try {
      await (await shelf()).delete("client", "client");
    } catch {
      // Nothing could be kept, so nothing is.
    }
  },
};

/** Nothing of this person stays on the tablet. */
export function forgetCarried(): Promise<void> {
  shut = true;
  return Promise.resolve(carrier.removeClient());
}

/** What the bench works with, and no more of the shop: no customers' list, no letters, no figures, no staff. */
const WORK = new Set([
  "session",
  "trade",
  "kinds",
  "plan-modes",
  "places",
  "tiers",
  "rules",
  "instruments",
  "job",
  "set",
  "plan",
]);
export function isCarried({ queryKey, state }: Pick<Query, "queryKey" | "state">): boolean {
  const [first, second] = queryKey;
  const ofTheRail = first === "rail" && (second === undefined || second === "unsafe");
  // What could not be asked again is carried on as it was; what was refused is not.
  const answered = state.status === "success" || state.error instanceof Unreachable;
  return answered && state.data !== undefined && (ofTheRail || WORK.has(String(first)));
}

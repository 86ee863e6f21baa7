import { useSyncExternalStore } from "react";
import { answer, client, type Schemas, writeKey } from "@/api/client";
import { Problem } from "@/api/problem";

/**
 * Readings on their way to the server. Each is kept in this tablet's storage until the server has it, sent in the
 * order of entry, and carries a write key, so that sending it again never doubles it.
 */
export interface Waiting {
  slot: string;
  key: string;
  setId: string;
  userId: string;
  body: Schemas["ReadingEntryRequest"];
}

export interface RefusedReading {
  waiting: Waiting;
  message: string;
}

interface Snapshot {
  waiting: readonly Waiting[];
  refused: readonly RefusedReading[];
  offline: boolean;
}

type Saved = (setId: string, reading: Schemas["Reading"]) => void;

const PREFIX = "felloe.outbox.";
let snapshot: Snapshot = { waiting: stored(), refused: [], offline: false };
let sending = false;
let userId = "";
let count = 0;
let retryMs = 1000;
let timer: number | undefined;
const listeners = new Set<() => void>();
const savedListeners = new Set<Saved>();

function stored(): Waiting[] {
  const slots = Object.keys(localStorage).filter((name) => name.startsWith(PREFIX));
  const found: Waiting[] = [];
  for (const slot of slots.sort()) {
    try {
      found.push(JSON.parse(localStorage.getItem(slot) ?? "") as Waiting);
    } catch {
      localStorage.removeItem(slot);
    }
  }
  return found;
}

function publish(change: Partial<Snapshot>): void {
  snapshot = { ...snapshot, ...change };
  listeners.forEach((listener) => listener());
}

/** Keep a reading and send it. */
export function enter(setId: string, body: Schemas["ReadingEntryRequest"]): void {
  count += 1;
  const slot = `${PREFIX}${Date.now().toString().padStart(15, "0")}.${count.toString().padStart(6, "0")}`;
  const waiting: Waiting = { slot, key: writeKey(), setId, userId, body };
  try {
    localStorage.setItem(slot, JSON.stringify(waiting));
  } catch {
    // A full storage must not stop the entry: it is sent from memory, and shown as waiting until then.
  }
  const place = (b: Schemas["ReadingEntryRequest"]) => `${b.kind} ${b.spoke ?? ""}`;
  publish({
    waiting: [...snapshot.waiting, waiting],
    refused: snapshot.refused.filter(
      (r) => r.waiting.setId !== setId || place(r.waiting.body) !== place(body),
    ),
  });
  void send();
}

/** Start sending for the person who is signed in. */
export function sendAs(user: string): void {
  userId = user;
  void send();
}

export function onSaved(listener: Saved): () => void {
  savedListeners.add(listener);
  return () => savedListeners.delete(listener);
}

async function send(): Promise<void> {
  if (sending || !userId) return;
  sending = true;
  window.clearTimeout(timer);
  try {
    for (;;) {
      const next = snapshot.waiting.find((w) => w.userId === userId);
      if (!next) break;
      await sendOne(next);
      retryMs = 1000;
    }
  } catch {
    publish({ offline: true });
    timer = window.setTimeout(() => void send(), retryMs);
    retryMs = Math.min(retryMs * 2, 15_000);
  } finally {
    sending = false;
  }
}

/** Send one; throws where it is worth trying again. */
async function sendOne(next: Waiting): Promise<void> {
  try {
    const reading = await answer(
      client.POST("/api/v1/reading-sets/{set_id}/readings", {
        params: { path: { set_id: next.setId } },
        headers: { "Idempotency-Key": next.key },
        body: next.body,
      }),
    );
    settle(next, {});
    savedListeners.forEach((listener) => listener(next.setId, reading));
  } catch (error) {
    if (!(error instanceof Problem) || error.status >= 500 || error.code === "not_signed_in") throw error;
    settle(next, { refused: [...snapshot.refused, { waiting: next, message: error.message }] });
  }
}

function settle(done: Waiting, change: Partial<Snapshot>): void {
  localStorage.removeItem(done.slot);
  publish({ waiting: snapshot.waiting.filter((w) => w.slot !== done.slot), offline: false, ...change });
}

window.addEventListener("online", () => void send());

export function useOutbox(): Snapshot {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => snapshot,
  );
}

import "fake-indexeddb/auto";
import { IDBFactory } from "fake-indexeddb";
import { afterEach, beforeEach, vi } from "vitest";
import { type Sent, storage, stubTablet } from "@/testing/tablet";
import type { Entry } from "@/write/entry";

declare const setImmediate: (then: (value?: unknown) => void) => void;

export const reading = (spoke: string, value: number) => ({
  kind: "tension" as const,
  spoke,
  value,
  unit: "N" as const,
});
export const SET = { set_id: "set", job_id: "job" };
export const BRAM = { id: "bram", name: "Bram" };
export const ODILE = { id: "odile", name: "Odile" };

type Outbox = typeof import("@/write/outbox");
let disk: IDBFactory;

/** The module as a page that has just been opened has it; the disk stays as it was. */
export async function opened(
  who: typeof BRAM | null = BRAM,
  kept = storage(),
): Promise<Outbox & { heard: Map<string, (event: Event) => void> }> {
  // The page before it is shut: its timers are gone.
  vi.clearAllTimers();
  const heard = stubTablet(kept) as unknown as Map<string, (event: Event) => void>;
  vi.stubGlobal("indexedDB", disk);
  vi.stubGlobal("BroadcastChannel", undefined);
  vi.resetModules();
  const outbox = await import("@/write/outbox");
  if (who) outbox.sendAs(who);
  await rest();
  return { ...outbox, heard };
}

/** Let the disk and the network have their say; timers stand still. */
export async function rest(): Promise<void> {
  for (let i = 0; i < 60; i += 1) await new Promise((done) => setImmediate(done));
}

export async function later(ms: number): Promise<void> {
  await vi.advanceTimersByTimeAsync(ms);
  await rest();
}

export async function onDisk(): Promise<Entry[]> {
  const { everything } = await import("@/write/store");
  return everything();
}

export const spokes = (sent: Sent[]) => sent.map((s) => s.body["spoke"]);

/** Each test has a new tablet, and says itself when time passes. */
export function onATablet(): void {
  beforeEach(() => {
    disk = new IDBFactory();
    vi.useFakeTimers({ toFake: ["setTimeout", "clearTimeout"] });
  });
  afterEach(() => {
    vi.useRealTimers();
  });
}

import { writeKey } from "@/api/client";
import { BAD_COOKIE, Problem } from "@/api/problem";
import { type BodyOf, type DeedName, deedOf } from "./deeds";
import type { Entry } from "./entry";
import { bringOver } from "./legacy";
import { ask, type Hindrance, hindranceOf, newCookie } from "./sending";
import * as store from "./store";

/**
 * The one way by which everything done at the bench reaches the server: kept on this tablet first, sent in order, once.
 * Only Felloe's own refusal ends an entry's journey, and then it stays, to be mended or dropped by who made it.
 */
export interface Snapshot {
  /** In the order in which they were made. */
  entries: readonly Entry[];
  offline: boolean;
  /** Entries that are only in this tab's memory, since the tablet's storage is full or shut. */
  unkept: number;
  /** Whether what waits on the tablet was read, so that all of it is in `entries`. */
  known: boolean;
}

interface Person {
  id: string;
  name: string;
}

type Settled = (entry: Entry, answer: unknown) => void;
type News = { kind: "changed" } | { kind: "settled"; entry: Entry; answer: unknown };
type Outcome = "settled" | Hindrance;

/** So many answers from in between in a row mean that nobody gets through. */
const MOST_BLOCKED = 3;
const FIRST_WAIT_MS = 1000;
const LONGEST_WAIT_MS = 15_000;

let snapshot: Snapshot = { entries: [], offline: false, unkept: 0, known: false };
let person: Person | undefined;
/** Whose screen this is, also while nobody is signed in: what is entered then is theirs, and waits for them. */
let atTheScreen: Person | undefined;
let sending = false;
let again = false;
let waitMs = FIRST_WAIT_MS;
let timer: ReturnType<typeof setTimeout> | undefined;
let unnumbered = 0;
const listeners = new Set<() => void>();
const settledListeners = new Set<Settled>();
const sessionListeners = new Set<() => void>();
const tabs = typeof BroadcastChannel === "undefined" ? undefined : new BroadcastChannel("felloe.outbox");

function publish(change: Partial<Snapshot>): void {
  const before = snapshot;
  const next = { ...snapshot, ...change };
  snapshot = { ...next, unkept: next.entries.filter((e) => e.seq < 0 && !keeping.has(e.key)).length };
  // The screen is drawn at once for whoever listens: what shows nothing new must not stand in the way of sending.
  if (!looksAlike(before, snapshot)) listeners.forEach((listener) => listener());
}

/** Whether a screen shows the same of both. An entry's number on the tablet is no concern of a screen. */
function looksAlike(one: Snapshot, other: Snapshot): boolean {
  return (
    one.offline === other.offline &&
    one.unkept === other.unkept &&
    one.known === other.known &&
    one.entries.length === other.entries.length &&
    one.entries.every((e, i) => isSame(e, other.entries[i]))
  );
}

const isSame = (one: Entry, other: Entry | undefined) =>
  one === other ||
  (one.key === other?.key &&
    one.state === other.state &&
    one.stumbles === other.stumbles &&
    one.refusal?.message === other.refusal?.message);

const keeping = new Set<string>();

function tell(news: News): void {
  tabs?.postMessage(news);
}

/** Read the tablet's queue anew; what only this tab's memory has stays behind it. */
async function reread(): Promise<void> {
  const kept = await store.everything();
  const there = new Set(kept.map((e) => e.key));
  publish({ entries: [...kept, ...snapshot.entries.filter((e) => e.seq < 0 && !there.has(e.key))] });
}

const placeOf = (entry: Entry) => deedOf(entry.deed).place(entry.target, entry.body);

/** Do something at the bench: it is shown at once, kept on the tablet, and sent. */
export function enter<N extends DeedName>(
  deed: N,
  target: Readonly<Record<string, string>>,
  body: BodyOf<N>,
): void {
  unnumbered -= 1;
  const entry: Entry = {
    seq: unnumbered,
    key: writeKey(),
    by: atTheScreen?.id ?? "",
    byName: atTheScreen?.name ?? "",
    deed,
    target,
    body,
    at: new Date().toISOString(),
    href: typeof location === "undefined" ? "/" : location.pathname,
    state: "waiting",
    stumbles: 0,
  };
  // Doing it anew at the same place mends what was refused there.
  const mended = snapshot.entries.filter((e) => e.state === "refused" && placeOf(e) === placeOf(entry));
  keeping.add(entry.key);
  publish({ entries: [...snapshot.entries.filter((e) => !mended.includes(e)), entry] });
  void keepIt(entry, mended);
}

async function keepIt(entry: Entry, mended: readonly Entry[]): Promise<void> {
  try {
    const seq = await store.keep(entry);
    keeping.delete(entry.key);
    publish({ entries: snapshot.entries.map((e) => (e.key === entry.key ? { ...e, seq } : e)) });
    tell({ kind: "changed" });
  } catch {
    // Full or shut: it stays in memory, is sent from there, and the banner says that it is kept nowhere else.
    keeping.delete(entry.key);
    publish({});
  }
  if (mended.length > 0) await forget(...mended);
  await send();
}

/** Take entries off the queue. */
async function forget(...gone: readonly Entry[]): Promise<void> {
  const kept = gone.filter((e) => e.seq >= 0).map((e) => e.seq);
  if (kept.length > 0) await store.drop(kept).catch(() => undefined);
  const keysGone = new Set(gone.map((e) => e.key));
  publish({ entries: snapshot.entries.filter((e) => !keysGone.has(e.key)) });
  tell({ kind: "changed" });
}

/** Give up an entry that was refused: what it said is gone. */
export function dropEntry(key: string): void {
  const entry = snapshot.entries.find((e) => e.key === key);
  if (entry) void forget(entry);
}

/** Send an entry that was refused once more, as it is: what stood against it may be mended elsewhere. */
export async function tryAgain(key: string): Promise<void> {
  const entry = snapshot.entries.find((e) => e.key === key);
  if (!entry) return;
  const once: Entry = { ...entry, state: "waiting" };
  delete once.refusal;
  await replace(once);
  await send();
}

async function replace(entry: Entry): Promise<void> {
  publish({ entries: snapshot.entries.map((e) => (e.key === entry.key ? entry : e)) });
  if (entry.seq >= 0) await store.change(entry).catch(() => undefined);
  tell({ kind: "changed" });
}

/** Send for the person who is signed in; entries of others wait for them. */
export function sendAs(who: Person): void {
  person = atTheScreen = who;
  void start();
}

/** Nobody is signed in: everything waits. */
export function sendForNobody(): void {
  person = undefined;
}

async function start(): Promise<void> {
  await bringOver();
  await reread().catch(() => undefined);
  publish({ known: true });
  await send();
}

/** Try now, whatever was waited for. */
export function sendNow(): void {
  waitMs = FIRST_WAIT_MS;
  void reread()
    .catch(() => undefined)
    .then(send);
}

export function onSettled(listener: Settled): () => void {
  settledListeners.add(listener);
  return () => settledListeners.delete(listener);
}

/** The server says that the session is over, or somebody else's. */
export function onSessionOver(listener: () => void): () => void {
  sessionListeners.add(listener);
  return () => sessionListeners.delete(listener);
}

async function send(): Promise<void> {
  if (!person) return;
  if (sending) {
    again = true;
    return;
  }
  sending = true;
  clearTimeout(timer);
  try {
    do {
      again = false;
      await alone(pass);
    } while (again);
  } finally {
    sending = false;
  }
  if (!mine().length) return;
  timer = setTimeout(() => void send(), waitMs);
  waitMs = Math.min(waitMs * 2, LONGEST_WAIT_MS);
}

/** One tab sends at a time. Where the browser has no locks, keys see to it that what two tabs send is done once. */
async function alone(work: () => Promise<void>): Promise<void> {
  const locks = typeof navigator === "undefined" ? undefined : (navigator as { locks?: LockManager }).locks;
  if (locks) await locks.request("felloe.outbox", work);
  else await work();
}

/** A reading goes after the set that it belongs to, where that was begun off the net. */
const begun = (entry: Entry) =>
  entry.deed === "reading_set" ||
  !snapshot.entries.some((e) => e.deed === "reading_set" && e.target["set_id"] === entry.target["set_id"]);

const mine = () => snapshot.entries.filter((e) => e.state === "waiting" && e.by === person?.id);

/** What goes with an entry in one request: all of its deed and target that may be sent now, in their order. What has stumbled
 * before goes by itself. */
function companions(first: Entry, ready: readonly Entry[], alone: boolean): [Entry, ...Entry[]] {
  const most = alone || first.stumbles > 0 ? 1 : (deedOf(first.deed).together?.most ?? 1);
  const target = JSON.stringify(first.target);
  const others = ready.filter(
    (e) => e !== first && e.stumbles === 0 && e.deed === first.deed && JSON.stringify(e.target) === target,
  );
  return [first, ...others.slice(0, most - 1)];
}

async function pass(): Promise<void> {
  await reread().catch(() => undefined);
  const shutPlaces = new Set<string>();
  let blocked = 0;
  let apart = false;
  for (;;) {
    const ready = mine().filter((e) => !keeping.has(e.key) && !shutPlaces.has(placeOf(e)) && begun(e));
    const [next] = ready;
    if (!next) return;
    const batch = companions(next, ready, apart);
    const outcome = await sendOne(batch);
    if (outcome === "shut") return;
    if (outcome === "away") {
      publish({ offline: true });
      return;
    }
    if (outcome === "stuck") {
      // One of many may be what nobody can take: then each goes by itself.
      if (batch.length > 1) {
        apart = true;
        continue;
      }
      // This one waits; what was done at other places need not wait for it.
      shutPlaces.add(placeOf(next));
      blocked += 1;
      await replace({ ...next, stumbles: next.stumbles + 1 });
      if (blocked >= MOST_BLOCKED) return;
      continue;
    }
    blocked = 0;
    waitMs = FIRST_WAIT_MS;
    if (snapshot.offline) publish({ offline: false });
  }
}

async function sendOne(batch: [Entry, ...Entry[]], freshCookie = false): Promise<Outcome> {
  try {
    const results = await ask(batch);
    // An answer that says nothing of what was sent is none.
    if (results.length < batch.length) return "stuck";
    for (const { entry, refusal } of results)
      if (refusal) await replace({ ...entry, state: "refused", refusal });
    const settled = results.filter((one) => !one.refusal);
    for (const { entry, answer } of settled) settle(entry, answer);
    if (settled.length > 0) await forget(...settled.map((one) => one.entry));
    return settled.length > 0 ? "settled" : "refused";
  } catch (error) {
    if (error instanceof Problem && error.code === BAD_COOKIE)
      return freshCookie || !(await newCookie()) ? "stuck" : sendOne(batch, true);
    const hindrance = hindranceOf(error);
    if (hindrance === "shut") sessionListeners.forEach((listener) => listener());
    if (hindrance === "refused" && error instanceof Problem)
      for (const entry of batch)
        await replace({ ...entry, state: "refused", refusal: { code: error.code, message: error.message } });
    return hindrance;
  }
}

function settle(entry: Entry, found: unknown): void {
  settledListeners.forEach((listener) => listener(entry, found));
  tell({ kind: "settled", entry, answer: found });
}

if (tabs)
  tabs.onmessage = (event: MessageEvent<News>) => {
    const news = event.data;
    if (news.kind === "settled") settledListeners.forEach((listener) => listener(news.entry, news.answer));
    else
      void reread()
        .catch(() => undefined)
        .then(send);
  };

if (typeof window !== "undefined") {
  window.addEventListener("online", sendNow);
  window.addEventListener("beforeunload", (event: BeforeUnloadEvent) => {
    if (mine().length > 0 || snapshot.unkept > 0) event.preventDefault();
  });
}

export function currentSnapshot(): Snapshot {
  return snapshot;
}

export function subscribe(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

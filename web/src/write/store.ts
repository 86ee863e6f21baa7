import { type DBSchema, type IDBPDatabase, openDB } from "idb";
import type { Entry } from "./entry";

/**
 * Where entries stand until the server has them: this tablet's IndexedDB, one queue for every tab, in the order of `seq`.
 * A write counts as kept only once the disk has it: a tablet that dies the moment after loses nothing.
 */
interface Shelf extends DBSchema {
  entries: { key: number; value: Entry };
}

const STRICT = { durability: "strict" } as const;
let opened: Promise<IDBPDatabase<Shelf>> | undefined;

function shelf(): Promise<IDBPDatabase<Shelf>> {
  opened ??= openDB<Shelf>("felloe", 1, {
    upgrade(db) {
      db.createObjectStore("entries", { keyPath: "seq", autoIncrement: true });
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

/** Keep an entry; gives its place in the queue. Rejects where the storage is full or shut. */
export async function keep(entry: Entry): Promise<number> {
  // The store gives the number.
  const unnumbered: Partial<Entry> = { ...entry };
  delete unnumbered.seq;
  const db = await shelf();
  const write = db.transaction("entries", "readwrite", STRICT);
  const seq = await write.store.add(unnumbered as Entry);
  await write.done;
  return seq;
}

/** Keep what has become of an entry, unless it has been settled meanwhile. */
export async function change(entry: Entry): Promise<void> {
  const db = await shelf();
  const write = db.transaction("entries", "readwrite", STRICT);
  if (await write.store.get(entry.seq)) await write.store.put(entry);
  await write.done;
}

export async function drop(seqs: readonly number[]): Promise<void> {
  const db = await shelf();
  const write = db.transaction("entries", "readwrite", STRICT);
  for (const seq of seqs) await write.store.delete(seq);
  await write.done;
}

export async function everything(): Promise<Entry[]> {
  return (await shelf()).getAll("entries");
}

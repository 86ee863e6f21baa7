import { useMemo, useSyncExternalStore } from "react";
import type { BodyOf, DeedName } from "./deeds";
import type { Entry } from "./entry";
import { currentSnapshot, type Snapshot, subscribe } from "./outbox";

export function useOutbox(): Snapshot {
  return useSyncExternalStore(subscribe, currentSnapshot);
}

export type EntryOf<N extends DeedName> = Omit<Entry, "body"> & { body: BodyOf<N> };

/** What of one kind of deed, on one target, has not reached the server yet or was refused; oldest first. */
export function useEntries<N extends DeedName>(
  deed: N,
  target: Readonly<Record<string, string>>,
): readonly EntryOf<N>[] {
  const { entries } = useOutbox();
  const wanted = JSON.stringify(target);
  return useMemo(() => {
    const pairs = Object.entries(JSON.parse(wanted) as Record<string, string>);
    return entries.filter(
      (e) => e.deed === deed && pairs.every(([name, value]) => e.target[name] === value),
    ) as readonly EntryOf<N>[];
  }, [entries, deed, wanted]);
}

/** The newest entry of each place, by a name that the caller gives it. */
export function useLatest<N extends DeedName>(
  deed: N,
  target: Readonly<Record<string, string>>,
  nameOf: (entry: EntryOf<N>) => string,
): ReadonlyMap<string, EntryOf<N>> {
  const found = useEntries(deed, target);
  return new Map(found.map((e) => [nameOf(e), e]));
}

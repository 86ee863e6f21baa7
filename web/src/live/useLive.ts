import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState, useSyncExternalStore } from "react";
import { useLocation } from "react-router";
import type { Schemas } from "@/api/client";
import { asker, type Here, listen, liveAddress } from "./stream";

let here: readonly Here[] = [];
const watchers = new Set<() => void>();

function setHere(now: readonly Here[]): void {
  here = now;
  watchers.forEach((watcher) => watcher());
}

/** Who else has this wheel open just now. */
export function useHere(): readonly Here[] {
  return useSyncExternalStore(
    (watcher) => {
      watchers.add(watcher);
      return () => watchers.delete(watcher);
    },
    () => here,
  );
}

/** Keep what is on the screen as the others leave it, and say to them which wheel is open here. */
export function useLive(session: Schemas["Session"] | undefined): void {
  const queries = useQueryClient();
  const { pathname } = useLocation();
  const [, job = "", at = ""] = /^\/jobs\/([0-9a-f-]{36})\/?(.*)$/.exec(pathname) ?? [];
  const moment = useRef("");
  const person = session?.id ?? "";
  const address = liveAddress(session?.live ?? "", window.location);
  // The first moment counts: what the page asked later knows more, and what it asked before was asked after it.
  const [first, setFirst] = useState("");
  if (session && !first) setFirst(session.moment);
  useEffect(() => {
    if (!person || !address || !first) return;
    const ask = asker(queries);
    const stop = listen({
      address,
      since: moment.current || first,
      job,
      at,
      onChanges: ask,
      onAnew: () => void queries.invalidateQueries(),
      onHere: setHere,
      onMoment: (now) => (moment.current = now),
    });
    return () => {
      stop();
      setHere([]);
    };
  }, [queries, person, address, first, job, at]);
}

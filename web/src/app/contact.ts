import { MutationCache, QueryCache, QueryClient } from "@tanstack/react-query";
import { useSyncExternalStore } from "react";
import { keys } from "@/api/keys";
import { isSessionOver, Problem, Unreachable } from "@/api/problem";

/** How the page stands with the server: heard from every question and every write. */
interface Contact {
  /** The last question got no answer of Felloe's: what is shown may be old. */
  away: boolean;
}

let contact: Contact = { away: false };
const listeners = new Set<() => void>();

function set(away: boolean): void {
  if (away === contact.away) return;
  contact = { away };
  listeners.forEach((listener) => listener());
}

export function useContact(): Contact {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => contact,
  );
}

export function makeQueries(): QueryClient {
  const heard = (error: unknown, key?: readonly unknown[]) => {
    if (error instanceof Unreachable) set(true);
    // Whether the session is over only the session itself can say: an answer may be older than the last signing in.
    if (isSessionOver(error) && key?.[0] !== keys.session()[0])
      void queries.invalidateQueries({ queryKey: keys.session() });
  };
  const queries = new QueryClient({
    queryCache: new QueryCache({
      onError: (error, query) => heard(error, query.queryKey),
      onSuccess: () => set(false),
    }),
    mutationCache: new MutationCache({ onError: (error) => heard(error) }),
    defaultOptions: {
      queries: {
        staleTime: 5_000,
        // Offline a question fails and says so; it does not wait in silence.
        networkMode: "always",
        // A refusal stays a refusal; only what got no answer of Felloe's is worth asking again.
        retry: (count, error) => !(error instanceof Problem) && count < 2,
        retryDelay: (count) => 500 * 2 ** count,
      },
    },
  });
  return queries;
}

import { MutationCache, QueryCache, QueryClient } from "@tanstack/react-query";
import { useSyncExternalStore } from "react";
import { isSessionOver, Problem, Unreachable } from "@/api/problem";

/** How the page stands with the server: heard from every question and every write. */
interface Contact {
  /** The last question got no answer of Felloe's: what is shown may be old. */
  away: boolean;
  /** The server has said that nobody, or somebody else, is signed in. */
  over: boolean;
}

let contact: Contact = { away: false, over: false };
const listeners = new Set<() => void>();

function set(change: Partial<Contact>): void {
  const next = { ...contact, ...change };
  if (next.away === contact.away && next.over === contact.over) return;
  contact = next;
  listeners.forEach((listener) => listener());
}

export function sessionIsOver(over: boolean): void {
  set({ over });
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

function heard(error: unknown): void {
  if (isSessionOver(error)) set({ over: true });
  if (error instanceof Unreachable) set({ away: true });
}

export function makeQueries(): QueryClient {
  return new QueryClient({
    queryCache: new QueryCache({ onError: heard, onSuccess: () => set({ away: false }) }),
    mutationCache: new MutationCache({ onError: heard }),
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
}

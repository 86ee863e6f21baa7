import { MutationCache, type Query, QueryCache, QueryClient } from "@tanstack/react-query";
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

/** The first look whether the server is there again; each in vain doubles the wait, up to the last. */
const FIRST_LOOK_MS = 3_000;
const LAST_LOOK_MS = 30_000;

/** Whether Felloe answers at all: one question past the cache, so that no screen goes blank for it. */
async function there(): Promise<boolean> {
  try {
    const answer = await fetch("/api/v1/session", { cache: "no-store" });
    return answer.headers.has("X-Felloe") && answer.status < 500;
  } catch {
    return false;
  }
}

/** What a screen could not show for want of an answer is asked for again by itself once there is somebody to ask. */
function looker(queries: QueryClient): { unanswered: () => void; answered: () => void } {
  let waitMs = FIRST_LOOK_MS;
  let timer: ReturnType<typeof setTimeout> | undefined;
  const failed = (query: Query) => query.state.error instanceof Unreachable;
  const look = async () => {
    timer = undefined;
    if (queries.getQueryCache().findAll({ type: "active", predicate: failed }).length === 0) return;
    if (await there()) await queries.refetchQueries({ type: "active", predicate: failed });
    else unanswered();
  };
  const unanswered = () => {
    if (timer !== undefined) return;
    timer = setTimeout(() => void look(), waitMs);
    waitMs = Math.min(2 * waitMs, LAST_LOOK_MS);
  };
  return { unanswered, answered: () => (waitMs = FIRST_LOOK_MS) };
}

export function makeQueries(): QueryClient {
  const heard = (error: unknown, key?: readonly unknown[]) => {
    if (error instanceof Unreachable) {
      set(true);
      looks.unanswered();
    }
    // Whether the session is over only the session itself can say: an answer may be older than the last signing in.
    if (isSessionOver(error) && key?.[0] !== keys.session()[0])
      void queries.invalidateQueries({ queryKey: keys.session() });
  };
  const queries = new QueryClient({
    queryCache: new QueryCache({
      onError: (error, query) => heard(error, query.queryKey),
      onSuccess: () => {
        set(false);
        looks.answered();
      },
    }),
    mutationCache: new MutationCache({ onError: (error) => heard(error) }),
    defaultOptions: {
      queries: {
        staleTime: 5_000,
        // A working day: what was looked at in the morning is carried in the evening.
        gcTime: 12 * 3600 * 1000,
        // Offline a question fails and says so; it does not wait in silence.
        networkMode: "always",
        // A refusal stays a refusal; only what got no answer of Felloe's is worth asking again.
        retry: (count, error) => !(error instanceof Problem) && count < 2,
        retryDelay: (count) => 500 * 2 ** count,
      },
    },
  });
  const looks = looker(queries);
  return queries;
}

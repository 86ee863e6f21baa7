import { type QueryClient, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import type { Schemas } from "@/api/client";
import { keys } from "@/api/keys";
import { ask } from "@/api/queries";

/** So many wheels are taken along: a bench's day. */
const MOST = 8;
/** How often it is looked whether there is more to take along, and how old what is there may be. */
const EVERY_MS = 120_000;
const STALE_MS = 600_000;
/** The first look, and the next where rail or worker were not there yet. */
const SOON_MS = 5_000;

/** The wheels that a person may want when the net is away: those in their hands, then those on hooks, by promise. */
export function benchOf(rail: Schemas["Rail"] | undefined, personId: string): string[] {
  const jobs = (rail?.hanging ?? []).map((hanging) => hanging.job);
  const rank = (job: Schemas["RailJob"]) => (job.assigned_to?.id === personId ? 0 : job.hook ? 1 : 2);
  return jobs
    .map((job, at) => ({ job, at }))
    .sort((a, b) => rank(a.job) - rank(b.job) || a.at - b.at)
    .slice(0, MOST)
    .map(({ job }) => job.id);
}

/** Ask for what the bench needs of these wheels, one after another, so that nobody at work waits for it. */
async function takeAlong(queries: QueryClient, jobs: readonly string[], here: () => boolean): Promise<void> {
  const once = { staleTime: STALE_MS };
  const still = async <T>(what: () => Promise<T>) => (here() ? await what() : undefined);
  await still(() => queries.prefetchQuery({ ...ask.meters(), ...once }));
  await still(() => queries.prefetchQuery({ ...ask.trade(), ...once }));
  for (const id of jobs) {
    await still(() => queries.prefetchQuery({ ...ask.job(id), ...once }));
    await still(() => queries.prefetchQuery({ ...ask.lacing(id), ...once }));
    const sets = await still(() => queries.ensureQueryData({ ...ask.sets(id), ...once }).catch(() => []));
    const plans = await still(() => queries.ensureQueryData({ ...ask.plans(id), ...once }).catch(() => []));
    const set = sets?.at(-1);
    const plan = plans?.at(-1);
    if (set) {
      await still(() => queries.prefetchQuery({ ...ask.set(set.id), ...once }));
      await still(() => queries.prefetchQuery({ ...ask.state(set.id), ...once }));
    }
    if (plan) {
      const found = await still(() =>
        queries.ensureQueryData({ ...ask.plan(plan.id), ...once }).catch(() => undefined),
      );
      if (found) await still(() => queries.prefetchQuery({ ...ask.state(found.reading_set_id), ...once }));
    }
  }
}

/** Keeps the wheels of the bench at hand on a tablet that carries the application. */
export function useBenchAlong(personId: string | undefined): void {
  const queries = useQueryClient();
  useEffect(() => {
    if (!personId || !("serviceWorker" in navigator)) return;
    let here = true;
    let timer: ReturnType<typeof setTimeout> | undefined;
    const look = () => {
      const rail = queries.getQueryData<Schemas["Rail"]>(keys.rail());
      const can = navigator.serviceWorker.controller && document.visibilityState === "visible";
      if (can && navigator.onLine) void takeAlong(queries, benchOf(rail, personId), () => here);
      // A tablet that was opened at a wheel takes the others along too.
      if (can && !rail) void queries.prefetchQuery({ ...ask.rail(), staleTime: STALE_MS });
      // Where the rail or the worker is not there yet, it is looked again soon.
      timer = setTimeout(look, can && rail ? EVERY_MS : SOON_MS);
    };
    timer = setTimeout(look, SOON_MS);
    return () => {
      here = false;
      clearTimeout(timer);
    };
  }, [queries, personId]);
}

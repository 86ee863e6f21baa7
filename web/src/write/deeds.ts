import { word } from "@/ui/words";
import { t as say } from "@lingui/core/macro";
import type { QueryClient } from "@tanstack/react-query";
import type { Schemas } from "@/api/client";
import { fill } from "@/api/fill";
import { keys } from "@/api/keys";

type Target = Readonly<Record<string, string>>;

/** How one kind of deed is sent, what its place is called, and what its answer changes on the screen. */
export interface Deed<Body, Answer> {
  method: "POST" | "PUT";
  path: (target: Target) => string;
  /** Deeds of one place are sent in order, each after the one before it has succeeded; others need not wait for them. */
  place: (target: Target, body: Body) => string;
  /** For the list of what waits. */
  says: (body: Body, target: Target) => string;
  settled: (queries: QueryClient, target: Target, answer: Answer) => void;
  /** Where many of one target go in one request. */
  together?: {
    most: number;
    body: (entries: readonly { key: string; body: unknown }[]) => unknown;
    results: (found: unknown) => {
      key: string;
      answer?: Answer;
      refusal?: { code: string; message: string };
    }[];
  };
}

/** A reading that is saved, and with the last of those sent together what the set says now. */
export interface SavedReading {
  reading: Schemas["Reading"];
  last: boolean;
  state?: Schemas["State"] | null;
  advice?: Schemas["ReadingAdvice"] | null;
}

function deed<Body, Answer>(how: Deed<Body, Answer>): Deed<Body, Answer> {
  return how;
}

const id = (target: Target, name: string) => target[name] ?? "";

export const deeds = {
  reading_set: deed<Schemas["OpenSetRequest"], Schemas["ReadingSet"]>({
    method: "POST",
    path: (t) => `/api/v1/jobs/${id(t, "job_id")}/reading-sets`,
    place: (t) => `set ${id(t, "set_id")}`,
    says: () => say`A set of readings begun`,
    settled: (queries, t) => {
      for (const key of [keys.set(id(t, "set_id")), keys.job(id(t, "job_id")), keys.rail()])
        void queries.invalidateQueries({ queryKey: key });
    },
  }),
  reading: deed<Schemas["ReadingEntryRequest"], SavedReading>({
    method: "POST",
    path: (t) => `/api/v1/reading-sets/${id(t, "set_id")}/entries`,
    place: (t, b) => `reading ${id(t, "set_id")} ${b.kind} ${b.spoke ?? ""}`,
    says: (b) => [b.spoke, b.kind, b.feel ?? b.value ?? ""].filter((part) => part !== undefined).join(" "),
    together: {
      most: 60,
      body: (entries) => ({ entries: entries.map((e) => ({ key: e.key, entry: e.body })) }),
      results: (found) => savedReadings(found as Schemas["Entered"]),
    },
    settled: (queries, t, { reading, last, state, advice }) => {
      const part = (name: "readings" | "state" | "advice") => keys.ofSet(id(t, "set_id"), name);
      fill<Schemas["ReadingSetDetail"]>(queries, part("readings"), (old) =>
        old ? withReading(old, reading) : old,
      );
      void queries.invalidateQueries({ queryKey: keys.ofJob(id(t, "job_id"), "comparison") });
      if (!last) return;
      // One answer holds both; where the server could not look at the set, it is asked once more.
      if (state) fill(queries, part("state"), state);
      else void queries.invalidateQueries({ queryKey: part("state") });
      if (advice) fill(queries, part("advice"), advice);
      else void queries.invalidateQueries({ queryKey: part("advice") });
    },
  }),
  move: deed<Schemas["MoveMarkRequest"], Schemas["PlanMove"]>({
    method: "PUT",
    path: (t) => `/api/v1/plans/${id(t, "plan_id")}/moves/${id(t, "spoke")}`,
    place: (t) => `move ${id(t, "plan_id")} ${id(t, "spoke")}`,
    says: (b, t) =>
      `${id(t, "spoke")} ${{ done: say`turned as planned`, changed: say`turned differently`, skipped: "left", todo: say`not yet` }[b.state]}`,
    settled: (queries, t, move) => {
      fill<Schemas["Plan"]>(
        queries,
        keys.plan(id(t, "plan_id")),
        (old) =>
          old && {
            ...old,
            moves: old.moves.map((m) =>
              m.key === move.key
                ? { ...m, state: move.state, done_turns: move.done_turns, done_at: move.done_at, by: move.by }
                : m,
            ),
          },
      );
    },
  }),
  lacing: deed<Schemas["PlaceInRequest"], Schemas["Lacing"]>({
    method: "POST",
    path: (t) => `/api/v1/jobs/${id(t, "job_id")}/lacing`,
    place: (t) => `lacing ${id(t, "job_id")}`,
    says: (b) => say`${b.placed} spokes are in`,
    settled: (queries, t, found) => fill(queries, keys.ofJob(id(t, "job_id"), "lacing"), found),
  }),
  strip_step: deed<Schemas["StepInRequest"], Schemas["Strip"]>({
    method: "POST",
    path: (t) => `/api/v1/jobs/${id(t, "job_id")}/strip/steps`,
    place: (t, b) => `strip ${id(t, "job_id")} ${b.step}`,
    says: (b) => say`Taking apart: a step ${b.done ? "done" : say`not done`}`,
    settled: (queries, t, found) => fill(queries, keys.ofJob(id(t, "job_id"), "strip"), found),
  }),
  strip_count: deed<Schemas["CountInRequest"], Schemas["Strip"]>({
    method: "POST",
    path: (t) => `/api/v1/jobs/${id(t, "job_id")}/strip/counts`,
    place: (t, b) => `count ${id(t, "job_id")} ${b.kind}`,
    says: (b) => `${b.count} × ${word(b.kind)} ${word(b.way)}`,
    settled: (queries, t, found) => fill(queries, keys.ofJob(id(t, "job_id"), "strip"), found),
  }),
  replace_step: deed<Schemas["ReplaceStepInRequest"], Schemas["Replacing"]>({
    method: "POST",
    path: (t) => `/api/v1/jobs/${id(t, "job_id")}/replacing`,
    place: (t, b) => `replace ${id(t, "job_id")} ${b.spoke}`,
    says: (b) => say`${b.spoke}, new spoke: a step ${b.done ? "done" : say`not done`}`,
    settled: (queries, t, found) => {
      fill(queries, keys.ofJob(id(t, "job_id"), "replacing"), found);
      for (const part of ["condition", "options", "comparison"] as const)
        void queries.invalidateQueries({ queryKey: keys.ofJob(id(t, "job_id"), part) });
    },
  }),
  check: deed<Schemas["CheckAnswerRequest"], Schemas["Diagnosis"]>({
    method: "POST",
    path: (t) => `/api/v1/jobs/${id(t, "job_id")}/diagnosis/answers`,
    place: (t) => `check ${id(t, "job_id")}`,
    says: () => say`An answer to a check`,
    settled: (queries, t, found) => fill(queries, keys.ofJob(id(t, "job_id"), "diagnosis"), found),
  }),
  refit: deed<Schemas["RefitAnswerRequestRequest"], Schemas["Refit"]>({
    method: "POST",
    path: (t) => `/api/v1/jobs/${id(t, "job_id")}/refit`,
    place: (t, b) => `refit ${id(t, "job_id")} ${b.step}`,
    says: (b) => say`Refit: a step ${b.result === "right" ? "right" : say`not right`}`,
    settled: (queries, t, found) => {
      fill(queries, keys.ofJob(id(t, "job_id"), "refit"), found);
      void queries.invalidateQueries({ queryKey: keys.ofJob(id(t, "job_id"), "comparison") });
    },
  }),
} as const;

export type DeedName = keyof typeof deeds;
export type BodyOf<N extends DeedName> = Parameters<(typeof deeds)[N]["says"]>[0];

/** A deed by its name, where body and answer are known only to be what they are. */
export function deedOf(name: DeedName): Deed<unknown, unknown> {
  return deeds[name] as unknown as Deed<unknown, unknown>;
}

function savedReadings(found: Schemas["Entered"]) {
  const last = found.results.findLast((one) => one.reading)?.key;
  return found.results.map(({ key, reading, refusal }) => {
    if (refusal) return { key, refusal: { code: refusal.code, message: refusal.detail } };
    if (!reading) return { key };
    const look = key === last ? { state: found.state, advice: found.advice } : {};
    return { key, answer: { reading, last: key === last, ...look } };
  });
}

function withReading(
  set: Schemas["ReadingSetDetail"],
  reading: Schemas["Reading"],
): Schemas["ReadingSetDetail"] {
  const others = set.readings.filter((r) => r.kind !== reading.kind || r.spoke !== reading.spoke);
  return { ...set, readings: reading.withdrawn ? others : [...others, reading] };
}

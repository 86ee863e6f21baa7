import { Trans } from "@lingui/react/macro";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import { writeKey } from "@/api/client";
import { fill } from "@/api/fill";
import type { Key } from "@/api/keys";
import { isSessionOver, Problem, sentenceOf, ServerFault, Unreachable } from "@/api/problem";
import { Button } from "@/ui/Button";
import { Notice } from "@/ui/Notice";

export interface Head {
  headers: { "Idempotency-Key": string };
}

interface HowToWrite<Body, Answer> {
  /** Ask the server; `head` carries the key and goes into the request as it is. */
  send: (body: Body, head: Head) => Promise<Answer>;
  /** What is to be asked anew afterwards: see `touches`. */
  touches?: readonly Key[];
  /** Where the answer is already all that a question would give. */
  fills?: (answer: Answer) => Key;
  onSaved?: (answer: Answer, body: Body) => void | Promise<void>;
  onRefused?: (problem: Problem) => void;
}

/** A write that is not of the bench: one after another, each with one key until it has succeeded. */
export interface Write<Body, Answer = unknown> {
  /** The same again while it is on its way is the same press; anything else waits its turn. */
  go: (body: Body, then?: (answer: Answer) => void) => void;
  pending: boolean;
  saved: boolean;
  data: Answer | undefined;
  /** What was asked last. */
  asked: Body | undefined;
  /** Felloe's refusal, with the fields at fault. */
  refused: Problem | null;
  /** Whatever went wrong, refusal or not. */
  error: Error | null;
  /** Press once more what got no answer. */
  again: () => void;
  reset: () => void;
}

interface Press<Body, Answer> {
  body: Body;
  key: string;
  then: ((answer: Answer) => void) | undefined;
}

const TRIES = 2;

export function useWrite<Body = void, Answer = unknown>(how: HowToWrite<Body, Answer>): Write<Body, Answer> {
  const queries = useQueryClient();
  const presses = useRef<Press<Body, Answer>[]>([]);
  const busy = useRef(false);
  const next = () => {
    const first = presses.current[0];
    if (!first || busy.current) return;
    busy.current = true;
    ask.mutate(first);
  };
  const touch = () => {
    for (const queryKey of how.touches ?? []) void queries.invalidateQueries({ queryKey });
  };
  const ask = useMutation<Answer, Error, Press<Body, Answer>>({
    // Offline the answer is "not reached", at once; a press is never put aside in silence.
    networkMode: "always",
    mutationFn: ({ body, key }) => how.send(body, { headers: { "Idempotency-Key": key } }),
    retry: (count, error) => error instanceof Unreachable && error.status === undefined && count < TRIES,
    retryDelay: (count) => 400 * 2 ** count,
    onSuccess: async (answer, { body, then }) => {
      presses.current.shift();
      busy.current = false;
      if (how.fills) fill(queries, how.fills(answer), answer);
      touch();
      then?.(answer);
      await how.onSaved?.(answer, body);
      next();
    },
    onError: (error) => {
      busy.current = false;
      // Without Felloe's own word nobody knows whether it arrived: it stays first, under its key, until it is pressed again.
      if (!(error instanceof Problem)) return;
      presses.current.shift();
      // The first try had arrived after all: what it made is to be seen.
      if (error.code === "write_key_reused") touch();
      how.onRefused?.(error);
      next();
    },
  });
  const go = (body: Body, then?: (answer: Answer) => void) => {
    const first = presses.current[0];
    const same = presses.current.some((p) => JSON.stringify(p.body) === JSON.stringify(body));
    if (busy.current && same) return;
    if (!busy.current && first) {
      // Unanswered and pressed again, perhaps mended meanwhile: the same press. The server knows by its key if it arrived.
      presses.current[0] = { body, key: first.key, then };
    } else {
      presses.current.push({ body, key: writeKey(), then });
    }
    next();
  };
  return {
    go,
    pending: ask.isPending,
    saved: ask.isSuccess,
    data: ask.data,
    asked: ask.variables?.body,
    refused: ask.error instanceof Problem ? ask.error : null,
    error: ask.error,
    again: next,
    reset: ask.reset,
  };
}

/** What became of a write, said at the place of the deed. Fields that say their own part are left out of it. */
export function WriteState({
  of,
  fields = [],
}: {
  of: Pick<Write<never>, "error" | "refused" | "again" | "pending">;
  fields?: readonly string[];
}) {
  if (of.pending) {
    return (
      <p role="status" className="sr-only">
        <Trans>Being saved</Trans>
      </p>
    );
  }
  if (!of.error || isSessionOver(of.error)) return null;
  if (of.refused) {
    if (fields.some((field) => of.refused?.for(field))) return null;
    return <Notice kind="refusal">{of.refused.message}</Notice>;
  }
  // What the page itself found wrong has not been sent at all.
  if (!(of.error instanceof Unreachable || of.error instanceof ServerFault))
    return <Notice kind="refusal">{sentenceOf(of.error)}</Notice>;
  return (
    <Notice kind="refusal">
      <Trans>
        {sentenceOf(of.error)} It may or may not have arrived; pressing again never does it twice.{" "}
        <Button weight="quiet" className="min-h-8 px-1" onClick={of.again}>
          Try again
        </Button>
      </Trans>
    </Notice>
  );
}

import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { type KeyboardEvent, useEffect, useRef, useState } from "react";
import type { Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { TextField } from "@/ui/Field";
import { WriteState } from "@/write/useWrite";
import { LaceDrawing } from "./LaceDrawing";
import { useDeeds } from "./useRun";

/** Lacing, question by question: into which hole, and over or under. */
export function LaceBench({ run }: { run: Schemas["PracticeRun"] }) {
  const { question, answers } = run.now;
  const { act, write } = useDeeds(run.id);
  const [hole, setHole] = useState("");
  const form = useRef<HTMLFormElement>(null);
  useEffect(() => {
    form.current?.querySelector<HTMLElement>("input, button")?.focus({ preventScroll: true });
  }, [question?.number, question?.what]);
  if (!question) return null;
  const last = answers.at(-1);
  const number = /^\d{1,2}$/.test(hole.trim()) ? Number(hole) : undefined;
  const put = (chosen: number) => {
    act({ what: "hole", hole: chosen });
    setHole("");
  };
  const cross = (over: boolean) => act({ what: "cross", over });
  const onKeyDown = (event: KeyboardEvent) => {
    if (question.what !== "cross" || event.repeat || !["+", "-"].includes(event.key)) return;
    event.preventDefault();
    cross(event.key === "+");
  };
  return (
    <div className="grid flex-1 grid-cols-[minmax(0,520px)_minmax(0,1fr)] gap-6 p-4 max-md:grid-cols-1 max-sm:p-2">
      <LaceDrawing
        derived={run.derived}
        question={question}
        onHole={question.what === "hole" ? put : undefined}
      />
      <form
        ref={form}
        onKeyDown={onKeyDown}
        onSubmit={(event) => {
          event.preventDefault();
          if (question.what === "hole" && number !== undefined) put(number);
        }}
        className="flex flex-col items-start gap-4"
      >
        <p className="text-muted">
          <Trans>
            Question {question.number} of {question.total}, set {question.set_number}
          </Trans>
        </p>
        <p className="text-2xl font-bold">
          {question.what === "hole" ? (
            <Trans>
              The {question.side === "R" ? say`right` : say`left`} flange’s hole {question.flange_hole}: into
              which rim hole?
            </Trans>
          ) : (
            <Trans>
              {question.spoke} meets {question.other} last: over or under?
            </Trans>
          )}
        </p>
        <p>
          {question.lean === "trailing"
            ? say`It trails: its hub hole lies ahead of its rim hole, clockwise.`
            : question.lean === "leading"
              ? say`It leads: its hub hole lies behind its rim hole, clockwise.`
              : say`It runs straight out.`}
        </p>
        {question.what === "hole" ? (
          <div className="flex items-end gap-3">
            <TextField
              label={say`Hole, clockwise from the valve`}
              inputMode="numeric"
              value={hole}
              onChange={setHole}
              autoComplete="off"
            />
            <Button weight="now" type="submit" disabled={number === undefined}>
              <Trans>Put it in</Trans>
            </Button>
          </div>
        ) : (
          <div className="flex gap-3">
            <Button weight="now" onClick={() => cross(true)}>
              <Trans>
                Over <kbd className="font-figure text-sm">+</kbd>
              </Trans>
            </Button>
            <Button weight="now" onClick={() => cross(false)}>
              <Trans>
                Under <kbd className="font-figure text-sm">−</kbd>
              </Trans>
            </Button>
          </div>
        )}
        <WriteState of={write} />
        {last && (
          <p role="status" className={last.right ? "font-bold" : "border-l-4 border-danger pl-3"}>
            <strong>{last.said}.</strong> {last.says}
          </p>
        )}
        <Button weight="quiet" onClick={() => act({ what: "end" })}>
          <Trans>Give up</Trans>
        </Button>
      </form>
    </div>
  );
}

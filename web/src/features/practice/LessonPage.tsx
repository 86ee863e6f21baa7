import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { askPractice } from "@/api/practiceQueries";
import { turnsText } from "@/features/bench/turns";
import { ButtonLink } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { NotYet } from "@/ui/NotYet";
import { figure } from "@/ui/number";
import { Banner } from "./Banner";
import { BeforeAfter } from "./BeforeAfter";

/** A lesson: why, in a few lines, and what the right way and the wrong ones do to the same rim. */
export default function LessonPage() {
  const { key = "" } = useParams();
  const lesson = useQuery(askPractice.lesson(key));
  const ladder = useQuery(askPractice.ladder());
  const [at, setAt] = useState("0");
  if (!lesson.data || !ladder.data) return <NotYet of={[lesson, ladder]} what={say`the lesson`} />;
  const { lines, ways, before } = lesson.data;
  const way = ways[Number(at)];
  const rung = ladder.data.rungs.find((r) => r.lesson === key);
  const [first = "", ...more] = lines;
  return (
    <main className="flex flex-1 flex-col">
      <Banner />
      <div className="flex max-w-5xl flex-col gap-3 p-4">
        <div className="flex flex-wrap items-center justify-between gap-3">
          <h1>
            <Trans>Lesson: {rung?.name ?? ""}</Trans>
          </h1>
          <ButtonLink to="/practice">
            <Trans>The ladder</Trans>
          </ButtonLink>
        </div>
        <p className="max-w-prose text-xl font-bold">{first}</p>
        {more.map((line) => (
          <p key={line} className="max-w-prose">
            {line}
          </p>
        ))}
        {way && (
          <section aria-label={say`What each way does`} className="mt-2 flex flex-col gap-3">
            <Choice
              label={say`The way`}
              value={at}
              onChange={setAt}
              className="flex-wrap"
              options={ways.map((w, i) => ({
                value: String(i),
                text: (
                  <>
                    <span aria-hidden="true">{w.right ? "✓ " : "✗ "}</span>
                    <span className="sr-only">{w.right ? say`right:` : say`wrong:`} </span>
                    {w.name}
                  </>
                ),
              }))}
            />
            <p className="text-lg">{way.says}</p>
            <BeforeAfter lesson={lesson.data} way={way} />
            <p className="font-figure text-sm">
              <Trans>
                lateral {figure(before.lateral_mm, 2)} → {figure(way.figures.lateral_mm, 2)} mm, radial{" "}
                {figure(before.radial_mm, 2)} → {figure(way.figures.radial_mm, 2)} mm, dish{" "}
                {figure(before.dish_mm, 2)} → {figure(way.figures.dish_mm, 2)} mm, uneven by{" "}
                {figure(before.spread_percent, 0)} → {figure(way.figures.spread_percent, 0)} %
              </Trans>
            </p>
            <p className="text-sm text-muted">
              {way.turns.length > 8
                ? say`${way.turns.length} nipples turned`
                : way.turns
                    .map((t) => `${t.spoke} ${t.turns > 0 ? "+" : "−"}${turnsText(t.turns)}`)
                    .join(", ")}
            </p>
          </section>
        )}
      </div>
    </main>
  );
}

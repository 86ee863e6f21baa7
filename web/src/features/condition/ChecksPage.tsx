import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { enter } from "@/write/outbox";
import { EntryNote } from "@/write/EntryNote";
import { useEntries } from "@/write/useOutbox";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useParams } from "react-router";
import type { Schemas } from "@/api/client";
import { ask } from "@/api/queries";
import { Button } from "@/ui/Button";
import { PickField } from "@/ui/Field";
import { Notice } from "@/ui/Notice";
import { NotYet } from "@/ui/NotYet";
import { JobHead } from "@/app/JobHead";
import { Causes } from "./Causes";
import { within } from "@/ui/words";
import { figure } from "@/ui/number";

/** What is wrong, by the fewest checks: one question at a time, the causes beside it. */
export default function ChecksPage() {
  const { jobId = "" } = useParams();
  const job = useQuery(ask.job(jobId));
  const diagnosis = useQuery(ask.diagnosis(jobId));
  const [picked, setPicked] = useState("");
  const entries = useEntries("check", { job_id: jobId });
  const unsent = entries.find((e) => e.state === "waiting");
  const refused = entries.find((e) => e.state === "refused");
  if (!job.data || !diagnosis.data) return <NotYet of={[job, diagnosis]} what={say`the checks`} />;
  const found = diagnosis.data;
  const every = [...found.answers, ...found.other_checks];
  const asked = every.find((c) => c.key === picked) ?? found.next_check;
  const closed = Boolean(job.data.handed_back_at);
  const give = (check_key: string, given: string) => {
    enter("check", { job_id: jobId }, { check_key, answer: given });
    setPicked("");
  };

  return (
    <main className="flex flex-1 flex-col">
      <JobHead job={job.data} title={say`What is wrong?`} />
      <div className="grid flex-1 grid-cols-1 gap-8 p-4 lg:grid-cols-[1fr_460px]">
        <div className="flex flex-col gap-4">
          <p className="text-lg">
            “{job.data.complaint}”{" "}
            {found.complaints.length > 0 && (
              <span className="text-muted">({found.complaints.join(", ")})</span>
            )}
          </p>
          {found.history.length > 0 && (
            <p className="border-l-4 border-line-strong pl-3 text-sm">
              <strong>
                <Trans>This wheel&rsquo;s history counts:</Trans>
              </strong>{" "}
              {found.history.join("; ")}.
            </p>
          )}
          {found.unsafe.length > 0 && (
            <Notice kind="caution">
              <Trans>
                Not ruled out: {found.unsafe.map(within).join(", ")}. The wheel is not to be ridden until it
                is.
              </Trans>
            </Notice>
          )}
          {unsent ? (
            <div className="rounded-md border border-line bg-plate p-5">
              <p className="text-2xl font-bold">
                <Trans>The answer is kept on this tablet.</Trans>
              </p>
              <p className="mt-1 text-muted">
                <Trans>The next check is worked out when it has reached the server.</Trans>
              </p>
            </div>
          ) : asked && !closed ? (
            <Question key={asked.key} check={asked} onGive={(a) => give(asked.key, a)} />
          ) : (
            <div className="rounded-md border border-line bg-plate p-5">
              <p className="text-2xl font-bold">
                {found.clear ? say`One cause is clear.` : say`No check tells more.`}
              </p>
              <p className="mt-1 text-muted">
                <Trans>Note what you found on the right, or ask something else below.</Trans>
              </p>
            </div>
          )}
          <EntryNote entry={refused} />
          {!closed && (
            <PickField
              label={say`Ask something else`}
              value={picked}
              onChange={setPicked}
              options={[
                {
                  value: "",
                  text: found.next_check ? say`the most telling, as proposed` : say`nothing more`,
                },
                ...found.other_checks.map((c) => ({
                  value: c.key,
                  text: say`${c.question} (${c.where}, ${figure(c.minutes)} min)`,
                })),
              ]}
            />
          )}
          <Given answers={found.answers} onMend={setPicked} closed={closed} />
        </div>
        <Causes job={job.data} diagnosis={found} closed={closed} />
      </div>
    </main>
  );
}

interface QuestionProps {
  check: Schemas["DiagnosisCheck"];
  onGive: (answer: string) => void;
}

/** One check, big, answered by a digit or a touch; 0 is "don't know". */
function Question({ check, onGive }: QuestionProps) {
  useEffect(() => {
    const byDigit = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      if (event.repeat || ["INPUT", "SELECT", "TEXTAREA"].includes(target.tagName)) return;
      const chosen = event.key === "0" ? "unknown" : check.answers[Number(event.key) - 1]?.key;
      if (chosen) onGive(chosen);
    };
    document.addEventListener("keydown", byDigit);
    return () => document.removeEventListener("keydown", byDigit);
  }, [check, onGive]);
  return (
    <section
      aria-label={say`The next check`}
      className="flex flex-col gap-4 rounded-md border border-line bg-plate p-5"
    >
      <p className="text-sm text-muted">
        <Trans>
          {check.where}, about{" "}
          {check.minutes < 1 ? `${Math.round(check.minutes * 60)} s` : `${figure(check.minutes)} min`}
        </Trans>
      </p>
      <h2 className="text-3xl leading-tight">{check.question}</h2>
      <div className="flex flex-wrap gap-3">
        {check.answers.map((a, i) => (
          <Button key={a.key} onClick={() => onGive(a.key)} className="min-h-14 border-2 text-lg font-bold">
            <kbd className="font-figure">{i + 1}</kbd> {a.text}
          </Button>
        ))}
        <Button onClick={() => onGive("unknown")} className="min-h-14">
          <Trans>
            <kbd className="font-figure">0</kbd> don&rsquo;t know
          </Trans>
        </Button>
      </div>
    </section>
  );
}

function Given({
  answers,
  onMend,
  closed,
}: {
  answers: readonly Schemas["GivenAnswer"][];
  onMend: (key: string) => void;
  closed: boolean;
}) {
  if (answers.length === 0) return null;
  return (
    <section aria-label={say`Answered`}>
      <h2>
        <Trans>Answered</Trans>
      </h2>
      <ol className="mt-1">
        {answers.map((a) => (
          <li key={a.key} className="flex items-center gap-3 border-t border-line">
            <span className="flex-1 py-1">
              {a.question} <strong>{a.answer_text}</strong> <span className="text-sm text-muted">{a.by}</span>
            </span>
            {!closed && (
              <Button weight="quiet" className="text-sm" onClick={() => onMend(a.key)}>
                <Trans>
                  answer again<span className="sr-only">: {a.question}</span>
                </Trans>
              </Button>
            )}
          </li>
        ))}
      </ol>
    </section>
  );
}

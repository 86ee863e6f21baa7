import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { answer, client, type Schemas } from "@/api/client";
import { keys } from "@/api/keys";
import { askLetters } from "@/api/letterQueries";
import { useMay } from "@/app/useMay";
import { Button } from "@/ui/Button";
import { Notice } from "@/ui/Notice";
import { NotYet } from "@/ui/NotYet";
import { dayAndTime } from "@/ui/when";
import { useWrite, WriteState } from "@/write/useWrite";

type Sent = Schemas["SentLetter"];

/** What was written to whom, and how far it got; in the demo also what would have left. */
export default function LettersPage() {
  const outbox = useQuery(askLetters.outbox());
  if (!outbox.data) return <NotYet of={[outbox]} what={say`the letters`} />;
  const { letters, catches, caught } = outbox.data;
  return (
    <main className="mx-auto w-full max-w-5xl p-4">
      <h1 className="mb-1">
        <Trans>Letters</Trans>
      </h1>
      <p className="mb-3 text-muted">
        <Trans>E-mails to customers. Each goes out once; what is unsure is asked about.</Trans>
      </p>
      {letters.length === 0 && (
        <p className="py-4 text-lg">
          <Trans>Nothing was written yet. On a job, “Tell the customer” writes one.</Trans>
        </p>
      )}
      <ul>
        {letters.map((letter) => (
          <Line key={letter.id} letter={letter} />
        ))}
      </ul>
      {catches && (
        <section aria-label={say`Caught`} className="mt-6">
          <h2 className="text-lg font-bold">
            <Trans>Caught here</Trans>
          </h2>
          <p className="mb-2 text-muted">
            <Trans>Nothing leaves this machine. This is what would have been delivered.</Trans>
          </p>
          {caught.map((mail) => (
            <details key={mail.at + mail.recipients} className="border-t border-line">
              <summary className="flex min-h-11 cursor-pointer flex-wrap items-center gap-x-4">
                <span className="font-figure text-sm">{dayAndTime(mail.at)}</span>
                <strong>{mail.recipients}</strong>
                <span>{mail.letter_subject}</span>
              </summary>
              <p className="mb-3 border-l-4 border-line-strong pl-3 whitespace-pre-line">
                {mail.letter_text}
              </p>
            </details>
          ))}
        </section>
      )}
    </main>
  );
}

function Line({ letter }: { letter: Sent }) {
  const may = useMay();
  const again = useWrite({
    touches: [keys.letters()],
    send: (_: void, head) =>
      answer(
        client.POST("/api/v1/letters/{message_id}/again", {
          params: { path: { message_id: letter.id } },
          ...head,
        }),
      ),
  });
  const states: Record<Sent["state"], string> = {
    queued: letter.tries ? say`not taken yet, tried ${letter.tries} times` : say`waits to be sent`,
    going: say`being sent`,
    sent: say`✓ sent`,
    failed: say`✗ not sent`,
    unsure: say`? perhaps sent`,
  };
  return (
    <li className="border-t border-line py-1">
      <Link to={`/jobs/${letter.job}`} className="job-tag tap float-left mt-2 mr-4 font-figure font-bold">
        {letter.number}
      </Link>
      <details>
        <summary className="flex min-h-11 cursor-pointer flex-wrap items-center gap-x-4">
          <span className="font-figure text-sm">{dayAndTime(letter.created_at)}</span>
          <strong>{letter.recipient}</strong>
          <span>{letter.what}</span>
          <span className="ml-auto font-semibold">{states[letter.state]}</span>
        </summary>
        <p className="mb-2 border-l-4 border-line-strong pl-3 whitespace-pre-line">{letter.letter_text}</p>
      </details>
      {letter.problem && <Notice kind="caution">{letter.problem}</Notice>}
      {(letter.state === "failed" || letter.state === "unsure") && may("letter_again") && (
        <p className="flex flex-wrap items-center gap-3">
          {letter.state === "unsure" && (
            <Trans>It was interrupted while it went. Ask the customer whether it came.</Trans>
          )}
          <Button disabled={again.pending} onClick={() => again.go()}>
            <Trans>Send it again</Trans>
          </Button>
        </p>
      )}
      <WriteState of={again} />
    </li>
  );
}

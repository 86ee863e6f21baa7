import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { keys, touches } from "@/api/keys";
import { askLetters } from "@/api/letterQueries";
import { useMay } from "@/app/useMay";
import { Button } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { Dialog } from "@/ui/Dialog";
import { IfFailed } from "@/ui/NotYet";
import { dayAndTime } from "@/ui/when";
import { useWrite, WriteState } from "@/write/useWrite";

type Kind = Schemas["LetterKindEnum"];

const KINDS = (): Record<Kind, string> => ({
  status: say`how it stands`,
  ask: say`the question`,
  promised: say`the day`,
  moved: say`it will be later`,
  ready: say`it is ready`,
});

/** On the job: what the customer can see by a link, and what is written to them. */
export function TellCustomer({ job }: { job: Schemas["Job"] }) {
  const [open, setOpen] = useState(false);
  const may = useMay();
  const links = useQuery({ ...askLetters.links(job.id), enabled: may("links") });
  if (!may("letter")) return null;
  const asked = links.data?.find((link) => link.asks && link.state === "open");
  return (
    <section aria-label={say`The customer is told`} className="flex flex-col gap-1">
      <Button onClick={() => setOpen(true)}>
        <Trans>Tell the customer …</Trans>
      </Button>
      {asked && (
        <p className="text-sm">
          <Trans>Asked by link, {asked.seen ? say`opened ${asked.seen} times` : say`not opened yet`}.</Trans>
        </p>
      )}
      {open && <TellDialog job={job} links={links.data ?? []} onClose={() => setOpen(false)} />}
    </section>
  );
}

interface TellDialogProps {
  job: Schemas["Job"];
  links: readonly Schemas["Link"][];
  onClose: () => void;
}

function usualKind(job: Schemas["Job"], links: readonly Schemas["Link"][]): Kind {
  if (job.ready_at && !job.handed_back_at) return "ready";
  if (links.some((link) => link.asks && link.state === "open")) return "ask";
  return job.promised_at && !job.handed_back_at ? "promised" : "status";
}

function TellDialog({ job, links, onClose }: TellDialogProps) {
  const [chosen, setKind] = useState<Kind>();
  const kind = chosen ?? usualKind(job, links);
  const may = useMay();
  const usable = links.filter((link) => link.state === "open" || link.state === "answered");
  const link =
    kind === "ask"
      ? usable.find((l) => l.asks && l.state === "open")
      : (usable.find((l) => !l.asks) ?? usable[0]);
  const letter = useQuery({
    ...askLetters.letter(job.id, kind, link?.id ?? null),
    enabled: kind !== "ask" || Boolean(link),
  });
  const send = useWrite({
    touches: [...touches.job(job.id), keys.letters()],
    send: (_: void, head) =>
      answer(
        client.POST("/api/v1/jobs/{job_id}/letter", {
          params: { path: { job_id: job.id } },
          ...head,
          body: { kind, link: link?.id ?? null },
        }),
      ),
    onSaved: onClose,
  });
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={say`Tell ${job.customer.name}`}
      lead={say`In their language, in plain words. Send it as they like to be told, or print it.`}
    >
      <div className="flex flex-col gap-4">
        <Choice<Kind>
          label={say`What`}
          value={kind}
          onChange={setKind}
          small
          options={Object.entries(KINDS()).map(([value, text]) => ({ value: value as Kind, text }))}
        />
        {kind === "ask" && !link && (
          <p>
            <Trans>What is asked is chosen under “Decide”: take the options there, then “Ask by link”.</Trans>
          </p>
        )}
        <IfFailed of={letter} />
        {letter.data && (
          <LetterText
            letter={letter.data}
            canSend={may("letter_send")}
            send={() => send.go()}
            pending={send.pending}
          />
        )}
        <WriteState of={send} />
        <Links job={job} links={links} />
        <div className="flex justify-end">
          <Button onClick={onClose}>
            <Trans>Close</Trans>
          </Button>
        </div>
      </div>
    </Dialog>
  );
}

interface LetterTextProps {
  letter: Schemas["Letter"];
  canSend: boolean;
  send: () => void;
  pending: boolean;
}

function LetterText({ letter, canSend, send, pending }: LetterTextProps) {
  const [copied, setCopied] = useState("");
  const way = (name: Schemas["Letter"]["prefers"]) => (letter.prefers === name ? "now" : "plain");
  return (
    <>
      <blockquote
        lang={letter.language}
        className="border-l-4 border-line-strong pl-3 text-lg wrap-anywhere whitespace-pre-line"
        data-printed
      >
        {letter.letter_text}
      </blockquote>
      <div className="flex flex-wrap gap-2">
        {canSend && letter.email && (
          <Button weight={way("email")} disabled={pending} onClick={send}>
            <Trans>Send to {letter.email}</Trans>
          </Button>
        )}
        {letter.sms && (
          <a className={linkLook(letter.prefers === "text")} href={letter.sms}>
            <Trans>Text message</Trans>
          </a>
        )}
        {letter.tel && (
          <a className={linkLook(letter.prefers === "phone")} href={letter.tel}>
            <Trans>Call {letter.phone}</Trans>
          </a>
        )}
        {letter.mailto && (
          <a className={linkLook(false)} href={letter.mailto}>
            <Trans>Own mail program</Trans>
          </a>
        )}
        <Button
          onClick={() =>
            void navigator.clipboard.writeText(letter.letter_text).then(
              () => setCopied(say`Copied.`),
              () => setCopied(say`Not copied: mark the text and copy it by hand.`),
            )
          }
        >
          <Trans>Copy</Trans>
        </Button>
        <Button onClick={() => window.print()}>
          <Trans>Print</Trans>
        </Button>
        <span role="status" className="self-center text-sm text-muted">
          {copied}
        </span>
      </div>
    </>
  );
}

const linkLook = (now: boolean) =>
  `inline-flex min-h-11 items-center rounded-md border px-4 font-semibold ${now ? "border-signal bg-signal text-signal-ink" : "border-line-strong bg-plate"}`;

function Links({ job, links }: { job: Schemas["Job"]; links: readonly Schemas["Link"][] }) {
  const may = useMay();
  const touched = [...touches.job(job.id)];
  const make = useWrite({
    touches: touched,
    send: (_: void, head) =>
      answer(
        client.POST("/api/v1/jobs/{job_id}/links", {
          params: { path: { job_id: job.id } },
          ...head,
          body: { chosen: [] },
        }),
      ),
    fills: () => keys.ofJob(job.id, "links"),
  });
  const end = useWrite({
    touches: touched,
    send: (id: string, head) =>
      answer(client.POST("/api/v1/links/{link_id}/revoke", { params: { path: { link_id: id } }, ...head })),
    fills: () => keys.ofJob(job.id, "links"),
  });
  const states: Record<Schemas["Link"]["state"], string> = {
    open: say`open`,
    answered: say`answered`,
    expired: say`run out`,
    revoked: say`closed`,
  };
  return (
    <section aria-label={say`Links`}>
      <h3 className="text-base font-bold">
        <Trans>The customer’s links</Trans>
      </h3>
      {links.map((link) => (
        <p key={link.id} className="flex flex-wrap items-center gap-x-3 border-t border-line py-1 text-sm">
          <span className="grow">
            {link.asks ? say`with the question` : say`how it stands`}, {states[link.state]},{" "}
            {link.seen_at ? say`seen ${dayAndTime(link.seen_at)}` : say`not seen yet`}
          </span>
          {link.address && (
            <a href={link.address} target="_blank" rel="noreferrer" className="underline underline-offset-4">
              <Trans>look at it</Trans>
            </a>
          )}
          {link.state === "open" && may("link_revoke") && (
            <Button weight="quiet" disabled={end.pending} onClick={() => end.go(link.id)}>
              <Trans>close it</Trans>
            </Button>
          )}
        </p>
      ))}
      <WriteState of={make} />
      <WriteState of={end} />
      {may("link_make") && !links.some((link) => !link.asks && link.state === "open") && (
        <Button weight="quiet" disabled={make.pending} onClick={() => make.go()}>
          <Trans>Make a link that shows how it stands</Trans>
        </Button>
      )}
    </section>
  );
}

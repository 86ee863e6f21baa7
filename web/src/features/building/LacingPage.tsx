import { word } from "@/ui/words";
import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { enter } from "@/write/outbox";
import { WriteState, useWrite } from "@/write/useWrite";
import { EntryNote } from "@/write/EntryNote";
import { useEntries } from "@/write/useOutbox";
import { touches } from "@/api/keys";
import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useParams } from "react-router";
import { answer, client, type Schemas } from "@/api/client";
import { ask } from "@/api/queries";
import { JobHead } from "@/app/JobHead";
import { Notice } from "@/ui/Notice";
import { Button, ButtonLink } from "@/ui/Button";
import { PickField } from "@/ui/Field";
import { NotYet } from "@/ui/NotYet";
import { LacingDrawing } from "@/wheelmap/LacingDrawing";
import { InVain } from "./InVain";
import { LookDialog } from "./LookDialog";

/** Which hole next: one spoke at a time, in the order of the work, kept so that anybody may go on. */
export default function LacingPage() {
  const { jobId = "" } = useParams();
  const job = useQuery(ask.job(jobId));
  const lacing = useQuery(ask.lacing(jobId));
  if (!job.data || !lacing.data) return <NotYet of={[job, lacing]} what={say`the lacing map`} />;
  return <Bench job={job.data} lacing={lacing.data} />;
}

function Bench({ job, lacing }: { job: Schemas["Job"]; lacing: Schemas["Lacing"] }) {
  const waiting = useEntries("lacing", { job_id: job.id });
  const inside = useWrite({
    touches: touches.job(job.id),
    send: (body: Schemas["BySideRequest"], head) =>
      answer(
        client.PUT("/api/v1/jobs/{job_id}/lacing/inside", {
          params: { path: { job_id: job.id } },
          ...head,
          body,
        }),
      ),
  });
  const [looking, setLooking] = useState(false);
  const closed = Boolean(job.handed_back_at);
  // What the hands have done is ahead of what the server has said: it is shown at once, and is there after a closed lid.
  const asked = waiting.filter((e) => e.state === "waiting").at(-1)?.body.placed;
  const placed = asked ?? lacing.placed;
  const next = lacing.places[placed];
  const set = lacing.sets.find((s) => s.number === next?.set_number);
  const begins = next && lacing.places[placed - 1]?.set_number !== next.set_number;
  const go = (to: number) => {
    if (closed || to < 0 || to > lacing.places.length) return;
    enter("lacing", { job_id: job.id }, { placed: to });
  };
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (looking || event.defaultPrevented || event.repeat) return;
      const within =
        event.target instanceof Element
          ? event.target.closest("button, a, select, input, [role=menu]")
          : null;
      if (within) return;
      if (event.key === "Enter" || event.key === " ") go(placed + 1);
      else if (event.key === "Backspace") go(placed - 1);
      else return;
      event.preventDefault();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  });
  const inSet = lacing.places.filter((p) => p.set_number === next?.set_number);
  return (
    <main className="flex flex-1 flex-col">
      <JobHead job={job} title={say`Lacing`}>
        <Button onClick={() => setLooking(true)}>
          <Trans>Is it right?</Trans>
        </Button>
        <ButtonLink to={`/jobs/${job.id}/lacing/card`}>
          <Trans>Card to print</Trans>
        </ButtonLink>
      </JobHead>
      <div className="grid flex-1 grid-cols-1 gap-6 p-4 lg:grid-cols-[minmax(0,620px)_1fr] low:grid-cols-[minmax(0,520px)_1fr] low:py-2">
        <LacingDrawing
          derived={lacing.derived}
          places={lacing.places}
          placed={placed}
          current={next?.spoke ?? ""}
          className="mx-auto max-h-[calc(100dvh-9rem)] w-full"
        />
        <div className="flex flex-col gap-4">
          {placed === 0 && <Inside lacing={lacing} onChoose={(v) => inside.go(v)} closed={closed} />}
          <WriteState of={inside} />
          {lacing.in_vain.length > 0 && !closed && <InVain jobId={job.id} why={lacing.in_vain} />}
          {lacing.stops.length > 0 && !closed && (
            <Notice kind="caution">
              <Trans>The kit does not fit. {lacing.stops.join(" ")}</Trans>{" "}
              <Link className="underline" to={`/jobs/${job.id}/spokes`}>
                <Trans>Spokes and kit</Trans>
              </Link>
            </Notice>
          )}
          {set && begins && set.before && (
            <div className="rounded-sm border-l-8 border-signal bg-plate p-3 text-lg font-bold" role="note">
              {set.before}
            </div>
          )}
          {next && set ? (
            <Hand
              place={next}
              title={set.title}
              nth={inSet.indexOf(next) + 1}
              of={inSet.length}
              length={lacing.lengths_mm[next.side]}
            />
          ) : (
            <section aria-label={say`Spoke in hand`}>
              <p className="text-arm font-bold">
                <Trans>All {lacing.places.length} are in.</Trans>
              </p>
              <p className="mt-2 text-lg">
                <Trans>
                  Count the nipples, then bring it up from slack: thread just covered on every one.
                </Trans>
              </p>
              <div className="mt-4 flex flex-wrap gap-3">
                <ButtonLink to={`/jobs/${job.id}/strip`}>
                  <Trans>Count the small parts</Trans>
                </ButtonLink>
                <Button onClick={() => setLooking(true)}>
                  <Trans>Check the lacing</Trans>
                </Button>
              </div>
            </section>
          )}
          {lacing.places[placed + 1] && (
            <p className="text-muted">
              <Trans>
                then {lacing.places[placed + 1]?.spoke}: hub {lacing.places[placed + 1]?.flange_hole}, rim{" "}
                {lacing.places[placed + 1]?.rim_hole}
              </Trans>
            </p>
          )}
          <EntryNote entry={waiting.find((e) => e.state === "refused")} />
          {!closed && (
            <div className="mt-auto flex flex-col gap-3 hand:sticky hand:bottom-0 hand:z-10 hand:bg-face hand:py-2">
              <div className="flex gap-3">
                <Button
                  className="min-h-16 w-36 text-lg"
                  disabled={placed === 0}
                  onClick={() => go(placed - 1)}
                >
                  <Trans>One back</Trans>
                </Button>
                <Button
                  weight="now"
                  className="min-h-16 flex-1 text-2xl"
                  disabled={!next}
                  onClick={() => go(placed + 1)}
                >
                  {next ? say`${next.spoke} is in` : say`Done`}
                </Button>
              </div>
              <p className="text-sm text-muted">
                <Trans>
                  {placed} of {lacing.places.length} in
                  {lacing.placed_by && placed > 0 && (
                    <>
                      <Trans>, last by {lacing.placed_by}</Trans>
                    </>
                  )}
                  . Enter: the spoke is in. Backspace: one back.
                </Trans>
              </p>
            </div>
          )}
        </div>
      </div>
      {looking && <LookDialog job={job} lacing={lacing} onClose={() => setLooking(false)} />}
    </main>
  );
}

function Hand({
  place,
  title,
  nth,
  of,
  length,
}: {
  place: Schemas["LacingPlace"];
  title: string;
  nth: number;
  of: number;
  length: number;
}) {
  return (
    <section aria-label={say`Spoke in hand`} aria-live="polite" className="flex flex-col gap-2">
      <p className="text-muted">
        <Trans>
          {title} · {nth} of {of}
        </Trans>
      </p>
      <p className="flex items-baseline gap-5">
        <span className="font-figure text-arm font-bold">{place.spoke}</span>
        <span className="font-figure text-2xl">
          <Trans>{length} mm</Trans>
        </span>
      </p>
      <dl className="grid grid-cols-[auto_1fr] items-baseline gap-x-4 gap-y-1 text-xl">
        <dt className="text-muted">
          <Trans>hub, {place.side === "R" ? say`● right` : say`○ left`}</Trans>
        </dt>
        <dd>
          <Trans>
            hole <span className="font-figure text-arm font-bold">{place.flange_hole}</span>
            <strong className="ml-4">
              head {place.head === "in" ? say`in: spoke outside` : say`out: spoke inside`}
            </strong>
          </Trans>
        </dd>
        <dt className="text-muted">
          <Trans>rim</Trans>
        </dt>
        <dd>
          <Trans>
            hole <span className="font-figure text-arm font-bold">{place.rim_hole}</span>
            <span className="ml-4">
              {place.beside_valve && say`beside the valve, `}
              {word(place.lean)}
            </span>
          </Trans>
        </dd>
        {place.crosses.length > 0 && (
          <>
            <dt className="text-muted">
              <Trans>crosses</Trans>
            </dt>
            <dd>
              {place.crosses.map((c) => (
                <span key={c.spoke} className="mr-4">
                  {word(c.way)} <strong>{c.spoke}</strong>
                </span>
              ))}
            </dd>
          </>
        )}
      </dl>
    </section>
  );
}

function Inside({
  lacing,
  onChoose,
  closed,
}: {
  lacing: Schemas["Lacing"];
  onChoose: (v: Schemas["BySideRequest"]) => void;
  closed: boolean;
}) {
  const word: Record<string, string> = {
    trailing: say`pulling spokes inside`,
    leading: say`braking spokes inside`,
    all: say`all inside`,
    none: say`all outside`,
  };
  return (
    <fieldset disabled={closed} aria-label={say`Which spokes run inside`} className="flex gap-4">
      {(["R", "L"] as const).map((side) => (
        <PickField
          key={side}
          label={
            side === "R" ? say`● Right, sprockets` : lacing.rotor_left ? say`○ Left, rotor` : say`○ Left`
          }
          value={lacing.inside[side]}
          options={lacing.choices[side].map((c) => ({ value: c.key, text: word[c.key] ?? c.key }))}
          onChange={(v) => onChoose({ ...lacing.inside, [side]: v })}
          help={lacing.choices[side].find((c) => c.key === lacing.inside[side])?.why}
          className="flex-1"
        />
      ))}
    </fieldset>
  );
}

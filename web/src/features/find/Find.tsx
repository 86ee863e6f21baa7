import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { Dialog as Radix } from "radix-ui";
import { type KeyboardEvent, useDeferredValue, useId, useState } from "react";
import { useNavigate } from "react-router";
import type { Schemas } from "@/api/client";
import { ask } from "@/api/queries";
import { classes } from "@/ui/classes";
import { IfFailed } from "@/ui/NotYet";
import { dayAndTime } from "@/ui/when";
import { word } from "@/ui/words";
import { CameraScan, cameraReads } from "./CameraScan";
import { jobOnTag } from "./scan";

type Hit = Schemas["Hit"];

interface FindProps {
  open: boolean;
  onOpenChange: (open: boolean) => void;
}

/** One search from every screen: what a caller says, or what a tag says. */
export function Find({ open, onOpenChange }: FindProps) {
  return (
    <Radix.Root open={open} onOpenChange={onOpenChange}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-30 bg-shade" />
        <Radix.Content
          aria-describedby={undefined}
          className="fixed top-[6dvh] left-1/2 z-40 flex max-h-[88dvh] w-[min(880px,96vw)] -translate-x-1/2 flex-col rounded-md border border-line-strong bg-face"
        >
          <Radix.Title className="sr-only">
            <Trans>Find</Trans>
          </Radix.Title>
          <Search onClose={() => onOpenChange(false)} />
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}

function Search({ onClose }: { onClose: () => void }) {
  const navigate = useNavigate();
  const [text, setText] = useState("");
  const [at, setAt] = useState(0);
  const [camera, setCamera] = useState(false);
  const list = useId();
  const looked = useDeferredValue(text.trim());
  const found = useQuery({
    ...ask.find(looked),
    enabled: looked !== "" && !jobOnTag(looked),
    placeholderData: (old) => (looked ? old : undefined),
  });
  const hits = looked ? (found.data ?? []) : [];
  const chosen = hits[Math.min(at, hits.length - 1)];
  const go = (jobId: string) => {
    onClose();
    void navigate(`/jobs/${jobId}`);
  };
  const keys = (event: KeyboardEvent) => {
    if (event.key === "ArrowDown") setAt((n) => Math.min(n + 1, hits.length - 1));
    else if (event.key === "ArrowUp") setAt((n) => Math.max(n - 1, 0));
    else if (event.key === "Enter") {
      const tag = jobOnTag(text);
      // What is on screen may still be the answer to what was typed before.
      if (tag) go(tag);
      else if (chosen && looked === text.trim() && !found.isPlaceholderData) go(chosen.job.id);
    } else return;
    event.preventDefault();
  };
  return (
    <>
      <div className="flex items-end gap-2 border-b border-line p-3">
        <label className="flex flex-1 flex-col gap-1 text-sm font-bold">
          <Trans>Find: number, name, telephone, bike, complaint</Trans>
          <input
            role="combobox"
            aria-expanded={hits.length > 0}
            aria-controls={list}
            aria-activedescendant={chosen ? `${list}-${chosen.job.id}` : undefined}
            aria-autocomplete="list"
            autoComplete="off"
            spellCheck={false}
            maxLength={300}
            value={text}
            onChange={(e) => {
              setText(e.target.value);
              setAt(0);
            }}
            onKeyDown={keys}
            className="min-h-14 w-full rounded-sm border border-line-strong bg-plate px-3 text-xl font-normal"
          />
        </label>
        {cameraReads() && (
          <button
            type="button"
            className="min-h-14 rounded-sm border border-line-strong bg-plate px-3"
            onClick={() => setCamera((on) => !on)}
          >
            {camera ? say`Stop the camera` : say`Scan a tag`}
          </button>
        )}
      </div>
      {camera && <CameraScan onTag={go} />}
      <div className="overflow-y-auto" aria-live="polite">
        <IfFailed of={found} />
        <ul id={list} role="listbox" aria-label={say`Jobs found`}>
          {hits.map((hit) => (
            <li
              key={hit.job.id}
              id={`${list}-${hit.job.id}`}
              role="option"
              aria-selected={hit === chosen}
              onClick={() => go(hit.job.id)}
              onPointerMove={() => setAt(hits.indexOf(hit))}
              className={classes(
                "cursor-pointer border-b border-line px-4 py-2",
                hit === chosen && "bg-signal text-signal-ink",
              )}
            >
              <HitLine hit={hit} />
            </li>
          ))}
        </ul>
        {looked && !hits.length && found.isSuccess && !found.isPlaceholderData && (
          <p className="p-4 text-lg">
            <Trans>Nothing fits “{looked}”, open or closed. Try fewer words, or the telephone number.</Trans>
          </p>
        )}
        {!looked && (
          <p className="p-4 text-muted">
            <Trans>
              Any part will do, in any order. Arrows choose, Enter opens. A hand scanner opens a tag from
              every screen.
            </Trans>
          </p>
        )}
      </div>
    </>
  );
}

/** The caller's question is answered here, without opening the job. */
function HitLine({ hit }: { hit: Hit }) {
  const { job } = hit;
  const when = hit.key === "gone" ? job.handed_back_at : hit.key === "ready" ? job.ready_at : job.promised_at;
  return (
    <div className="grid grid-cols-[4.5rem_1fr_auto] items-baseline gap-x-4 max-sm:grid-cols-[3.5rem_1fr]">
      <span className="font-figure text-2xl font-bold">{job.number}</span>
      <span>
        <strong>{job.customer}</strong> <span className="font-figure">{hit.phone}</span>
        <br />
        <Trans>
          {word(job.wheel.position)} wheel, {job.bike}
        </Trans>
        <span title={job.complaint} className="block truncate text-sm">
          “{job.complaint}”
        </span>
      </span>
      <span className="text-right max-sm:col-start-2 max-sm:text-left">
        <strong>{hit.said}</strong>
        <br />
        {when ? (
          <span>
            {hit.key === "ready"
              ? say`since ${dayAndTime(when)}`
              : hit.key === "gone"
                ? dayAndTime(when)
                : say`promised for ${dayAndTime(when)}`}
          </span>
        ) : (
          !job.handed_back_at && <Trans>no promise given</Trans>
        )}
        {hit.hook && (
          <span className="block">
            <Trans>on hook {hit.hook}</Trans>
          </span>
        )}
      </span>
    </div>
  );
}

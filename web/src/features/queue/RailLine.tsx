import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import {
  startTransition,
  useCallback,
  useEffect,
  useMemo,
  useRef,
  useState,
  type DragEvent,
  type KeyboardEvent,
} from "react";
import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "@/api/client";
import { ask } from "@/api/queries";
import { useMay } from "@/app/useMay";
import { classes } from "@/ui/classes";
import { fromLocalInput, toLocalInput } from "@/ui/when";
import { HookedLot, HookedWheel } from "./HookedWheel";
import { PromiseDialog } from "./PromiseDialog";
import { RailDetail } from "./RailDetail";
import { firstOf, type Hanging, type RailDay, railDays } from "./railDays";
import { stageIndex, stageName } from "./stages";
import { figure } from "@/ui/number";
import { useMovedFocus } from "./useMovedFocus";

interface RailLineProps {
  rail: Schemas["Rail"];
  hanging: readonly Hanging[];
  stages: readonly Schemas["Stage"][];
  /** No filter is on, so that an empty rail is an empty shop. */
  all: boolean;
}

interface Moving {
  job: Schemas["RailJob"];
  at?: string;
}

/** Up to so many wheels hang as drawings; more hang closer together. */
const ROOMY = 24;
/** So many are more than a screen shows: they are drawn first, those below as soon as there is time. */
const FIRST_DRAWN = 48;

/** One rail a day; each wheel hangs from it at its promise. Arrows walk along it, P moves a promise, dragging does too. */
export function RailLine({ rail, hanging, stages, all }: RailLineProps) {
  const days = useMemo(
    () => railDays(hanging, new Date(rail.now), rail.days),
    [hanging, rail.now, rail.days],
  );
  const [whole, setWhole] = useState(hanging.length <= FIRST_DRAWN);
  useEffect(() => startTransition(() => setWhole(true)), []);
  const unsafe = useQuery(ask.unsafe()).data;
  const notToRide = useMemo(() => new Set((unsafe ?? []).map((job) => job.job_id)), [unsafe]);
  const [picked, setPicked] = useState("");
  // The focus moves with the key; what is said of the wheel below follows as soon as there is time.
  const point = useCallback((id: string) => startTransition(() => setPicked(id)), []);
  const [opened, setOpened] = useState<ReadonlySet<string>>(new Set());
  const [moving, setMoving] = useState<Moving>();
  const line = useRef<HTMLDivElement>(null);
  const moved = useMovedFocus(line, hanging, moving !== undefined);
  const promises = useMay()("promise_give");
  const roomy = hanging.length <= ROOMY;
  const openLot = useCallback((key: string) => setOpened((now) => new Set([...now, key])), []);
  const find = (id: string) => hanging.find((h) => h.job.id === id);
  const shown = find(picked) ?? find(rail.mine ?? rail.next_job_id ?? "") ?? hanging[0];

  if (days.length === 0) {
    return (
      <p className="py-10 text-center text-lg text-muted">
        {all
          ? say`The rail is empty. Take in a wheel, and it hangs here at its promise.`
          : say`None of these just now.`}
      </p>
    );
  }
  const keysOf = (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const links = [...(line.current?.querySelectorAll<HTMLElement>("[data-hung]") ?? [])];
    const at = links.indexOf(document.activeElement as HTMLElement);
    const here = links[at];
    if (!here) return;
    const go = (to: HTMLElement | undefined) => {
      event.preventDefault();
      to?.focus();
    };
    if (event.key === "ArrowRight") go(links[at + 1]);
    else if (event.key === "ArrowLeft") go(links[at - 1]);
    else if (event.key === "ArrowDown" || event.key === "ArrowUp") go(inNextRow(links, here, event.key));
    else if (event.key.toLowerCase() === "p" && promises) {
      const job = find(here.dataset["hung"] ?? "")?.job;
      event.preventDefault();
      if (job && !event.repeat) setMoving({ job });
    }
  };
  const drop = (event: DragEvent, day: RailDay) => {
    event.preventDefault();
    const job = find(event.dataTransfer.getData("text/felloe-job"))?.job;
    if (job) setMoving({ job, ...sameHourOn(day, job) });
  };
  return (
    <section aria-label={say`Wheels by promise`} className="flex flex-col gap-3">
      <div ref={line} onKeyDown={keysOf} className="flex flex-wrap gap-x-5 gap-y-2">
        {(whole ? days : firstOf(days, FIRST_DRAWN)).map((day) => (
          <div
            key={day.key}
            onDragOver={(e) => promises && day.key !== "past" && e.preventDefault()}
            onDrop={(e) => promises && day.key !== "past" && drop(e, day)}
            className={classes(
              "flex max-w-full min-w-44 flex-col",
              !roomy && "-m-1 w-full p-1 contain-content",
            )}
          >
            <DayHead day={day} />
            <ul
              aria-label={day.title}
              className={classes(
                "flex min-w-0 flex-wrap content-start border-t-8 pb-2",
                day.key === "past" ? "border-danger" : "border-ink",
                roomy ? "gap-x-1" : "gap-1 pt-1",
              )}
            >
              {day.hung.map((hung) =>
                hung.wheels.length > 1 && !opened.has(hung.key) ? (
                  <li key={hung.key}>
                    <HookedLot hung={hung} onOpen={openLot} />
                  </li>
                ) : (
                  hung.wheels.map((h) => (
                    <li key={h.job.id}>
                      <HookedWheel
                        hanging={h}
                        roomy={roomy}
                        next={h.job.id === rail.next_job_id || h.job.id === rail.mine}
                        share={stageIndex(stages, h.job.stage) / stages.length}
                        stage={stageName(stages, h.job.stage)}
                        unsafe={notToRide.has(h.job.id)}
                        drags={promises}
                        onPoint={point}
                      />
                    </li>
                  ))
                ),
              )}
            </ul>
          </div>
        ))}
      </div>
      {shown && (
        <RailDetail
          hanging={shown}
          stages={stages}
          {...(promises ? { onMove: () => setMoving({ job: shown.job }) } : {})}
        />
      )}
      {moving && (
        <PromiseDialog
          jobId={moving.job.id}
          number={moving.job.number}
          {...(moving.at ? { at: moving.at } : {})}
          onClose={() => {
            moved(moving.job);
            setMoving(undefined);
          }}
        />
      )}
    </section>
  );
}

/** The wheel nearest below or above: the first of another row in the direction, closest to the column. */
function inNextRow(links: readonly HTMLElement[], here: HTMLElement, key: string): HTMLElement | undefined {
  const from = here.getBoundingClientRect();
  const down = key === "ArrowDown" ? 1 : -1;
  let best: HTMLElement | undefined;
  let least = Infinity;
  for (const link of links) {
    const to = link.getBoundingClientRect();
    const rows = (to.top - from.top) * down;
    if (rows < from.height / 2) continue;
    const far = rows * 10 + Math.abs(to.left - from.left);
    if (far < least) [least, best] = [far, link];
  }
  return best;
}

/** Where a wheel was dropped on a day: at the hour of its old promise, else at noon. */
function sameHourOn(day: RailDay, job: Schemas["RailJob"]): { at?: string } {
  if (day.key === "none") return {};
  const hour = job.promised_at ? toLocalInput(job.promised_at).slice(11) : "12:00";
  const at = fromLocalInput(`${day.key}T${hour}`);
  return at ? { at } : {};
}

function DayHead({ day }: { day: RailDay }) {
  const hours = (minutes: number) => figure(minutes / 60, minutes < 600 ? 1 : 0);
  const full = day.benchMin !== null && (day.workMin ?? 0) > day.benchMin;
  return (
    <div className="flex items-end justify-between gap-3 pb-1">
      <h2 className="text-base whitespace-nowrap">{day.title}</h2>
      {day.benchMin !== null && (
        <p
          className={classes(
            "text-right text-sm whitespace-nowrap",
            full ? "font-bold text-danger" : "text-muted",
          )}
        >
          <Trans>
            {hours(day.workMin ?? 0)} of {hours(day.benchMin)} h
          </Trans>
        </p>
      )}
    </div>
  );
}

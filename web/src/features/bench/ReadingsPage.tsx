import { headWord, word } from "@/ui/words";
import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { IfFailed } from "@/ui/NotYet";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useCallback, useState } from "react";
import { useParams } from "react-router";
import type { Schemas } from "@/api/client";
import { ask } from "@/api/queries";
import { useGhost } from "./useGhost";
import { JobHead } from "@/app/JobHead";
import { FROM_DISK } from "@/offline/carried";
import { SET_NAMES } from "./names";
import { Strip } from "@/strip/Strip";
import { ButtonLink } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { PickField } from "@/ui/Field";
import { NotYet } from "@/ui/NotYet";
import { WheelDrawing } from "@/wheelmap/WheelDrawing";
import { DishEntry } from "./DishEntry";
import { useInstrument } from "./instrument";
import { LiveBar, useLive } from "./LiveBar";
import { NextLine } from "./NextLine";
import { across, inOrder, type Order } from "./order";
import { keys } from "@/api/keys";
import { enter } from "@/write/outbox";
import { SoundKey } from "./SoundKey";
import { halfStepOf, OTHER_SOURCES, sourceText, stepOf, tensionEntry } from "./sources";
import { SpokeEntry } from "./SpokeEntry";
import { type Kind, useReadings } from "./useReadings";
import { type Way, Ways } from "./Ways";
import { WaysByKey } from "./WaysByKey";
import { waysByKey } from "./keyedWays";
import { useSounds } from "./useSounds";

/** What the keys * and / go through: what is read, and after it all other ways to. */
type Mode = Kind | "ways";
const KINDS: Kind[] = ["tension", "lateral", "radial", "dish"];
const LANES = { lateral: 62, radial: 44, tension: 108 };
const MODES: Mode[] = [...KINDS, "ways"];

export default function ReadingsPage() {
  const { jobId = "", setId = "" } = useParams();
  const job = useQuery(ask.job(jobId));
  const set = useQuery(ask.set(setId));
  const meters = useQuery(ask.meters());
  const session = useQuery(ask.session());
  // Where the walk goes on is seen from what the server has; from the tablet's own store only where nobody answers.
  const old = set.dataUpdatedAt === FROM_DISK && !set.isError;
  if (!job.data || !set.data || old || !meters.data || !session.data)
    return <NotYet of={[job, set, meters, session]} what={say`the readings`} />;
  return <Bench job={job.data} set={set.data} meters={meters.data} session={session.data} />;
}

interface BenchProps {
  job: Schemas["Job"];
  set: Schemas["ReadingSetDetail"];
  meters: Schemas["Meter"][];
  session: Schemas["Session"];
}

function Bench({ job, set, meters, session }: BenchProps) {
  const derived = job.wheel.derived;
  const [mode, setMode] = useState<Mode>("tension");
  // The other ways are about tension until something else is chosen.
  const kind: Kind = mode === "ways" ? "tension" : mode;
  const [way, setWay] = useState<Way>("");
  const [order, setOrder] = useState<Order>("sides");
  const [instrument, setInstrument] = useInstrument(meters);
  const readings = useReadings(set.id);
  const target = { set_id: set.id, job_id: job.id };
  const state = useQuery({ ...ask.state(set.id), placeholderData: (old) => old });
  const ghost = useGhost(job.id, set.id, state.data);
  const advice = useQuery({ ...ask.advice(set.id), placeholderData: (old) => old });
  const instruments = useQuery(ask.instruments());
  const [dial, setDial] = useState(() => localStorage.getItem("felloe.dial") ?? "");
  const [again, setAgain] = useState(false);
  const [auto, setAuto] = useState(false);
  const [over, setOver] = useState(false);
  const queries = useQueryClient();
  useSounds(set.id);
  const names = inOrder(derived.spokes, order, advice.data?.quick_look);
  const firstOpen = names.find((name) => !readings.at("tension", name)) ?? names[0] ?? "R1";
  const [spoke, setSpoke] = useState(firstOpen);
  const [full, setFull] = useState(false);
  const unit = session.force_unit ?? "N";

  const meter = meters.find((m) => m.id === instrument);
  const by = (from: string, step: number) =>
    names[(names.indexOf(from) + step + names.length) % names.length] ?? from;
  const go = useCallback(
    (name: string) => {
      setFull(false);
      setSpoke(name);
    },
    [setFull, setSpoke],
  );
  const choose = (next: Mode) => {
    setFull(false);
    setMode(next);
    if (next === "ways") return;
    setSpoke(names.find((name) => !readings.at(next, name)) ?? names[0] ?? spoke);
  };
  const streaming =
    kind === "tension" ? instruments.data?.find((i) => i.id === instrument && i.address) : undefined;
  const dials = (instruments.data ?? []).filter((i) => i.kind === "dial" && i.use === "in_use");
  const { data: live, offer } = useLive(streaming, spoke);
  const turn = (step: 1 | -1) =>
    choose(MODES[(MODES.indexOf(mode) + step + MODES.length) % MODES.length] ?? mode);
  const record = (value: number): string | undefined => {
    const entry =
      kind === "tension"
        ? tensionEntry(instrument, meter, value)
        : { value, unit: "mm" as const, ...(dials.some((d) => d.id === dial) ? { instrument: dial } : {}) };
    if (typeof entry === "string") return entry;
    enter("reading", target, { kind, spoke, ...entry, ...(again ? { repeat: true } : {}) });
    if (again) return undefined;
    if (spoke === names.at(-1)) setFull(true);
    else setSpoke(by(spoke, 1));
    return undefined;
  };
  const forward = () => {
    if (full) turn(1);
    else go(by(spoke, 1));
  };
  const done = names.filter((name) => readings.at(kind, name)).length;
  const sources = [...meters.map((m) => ({ value: m.id, text: m.name })), ...OTHER_SOURCES];
  const ways = waysByKey({
    sources,
    source: instrument,
    onSource: (value, back) => {
      setInstrument(value);
      if (back) choose("tension");
    },
    order,
    onOrder: (next) => {
      setOrder(next);
      setMode("tension");
      const first = inOrder(derived.spokes, next, advice.data?.quick_look);
      setSpoke(first.find((name) => !readings.at("tension", name)) ?? first[0] ?? spoke);
    },
    again,
    onAgain: setAgain,
    onWay: setWay,
  });

  return (
    <main className="flex flex-1 flex-col">
      <JobHead job={job} title={say`${SET_NAMES[set.stage]}, set ${set.number}`}>
        <Ways
          set={set}
          derived={derived}
          meters={meters}
          spoke={spoke}
          unit={unit}
          onOver={setOver}
          way={way}
          onWay={setWay}
          onDone={() => void queries.invalidateQueries({ queryKey: keys.set(set.id) })}
        />
        <SoundKey />
        <ButtonLink to={`/jobs/${job.id}/state/${set.id}`}>
          <Trans>State of the wheel</Trans>
        </ButtonLink>
      </JobHead>
      <div className="flex flex-wrap items-start gap-x-3 gap-y-1 px-4 pt-2 max-sm:px-2">
        <Choice
          label={say`What is read`}
          value={mode}
          onChange={choose}
          options={[
            ...KINDS.map((k) => ({ value: k, text: headWord(k) })),
            {
              value: "ways",
              text: <span aria-label={say`Other ways`}>…</span>,
              hint: say`Other ways to read`,
            },
          ]}
        />
        <PickField
          label={say`In which order`}
          bare
          value={order}
          onChange={(next) => setOrder(next as Order)}
          options={[
            { value: "sides", text: say`right, then left` },
            { value: "left", text: say`left, then right` },
            { value: "passing", text: say`as they pass` },
            { value: "quick", text: say`quick look` },
          ]}
          className="w-40"
        />
        {kind === "tension" && (
          <PickField
            label={say`Instrument`}
            bare
            value={instrument}
            onChange={setInstrument}
            options={sources}
            className="w-44"
          />
        )}
        {(kind === "lateral" || kind === "radial") && dials.length > 0 && (
          <PickField
            label={say`Dial`}
            bare
            value={dials.some((d) => d.id === dial) ? dial : ""}
            onChange={(next) => {
              localStorage.setItem("felloe.dial", next);
              setDial(next);
            }}
            options={[
              { value: "", text: say`no dial named` },
              ...dials.map((d) => ({ value: d.id, text: d.name })),
            ]}
            className="w-44"
          />
        )}
        {kind !== "dish" && (
          <label className="flex min-h-12 items-center gap-2 text-sm">
            <Trans>
              <input
                type="checkbox"
                className="size-6 accent-ink"
                checked={again}
                onChange={(event) => setAgain(event.target.checked)}
              />
              repeat, average
            </Trans>
          </label>
        )}
        <p className="ml-auto self-center whitespace-nowrap text-muted" role="status">
          {kind === "dish" ? "" : say`${done} of ${names.length} ${word(kind)}`}
        </p>
      </div>
      <div className="grid grid-cols-[auto_minmax(0,1fr)] gap-x-6 px-4 pt-1 max-md:grid-cols-1 max-sm:px-2 hand:sticky hand:bottom-0 hand:z-10 hand:order-last hand:border-t hand:border-line hand:bg-face hand:pb-2">
        <WheelDrawing
          derived={derived}
          selected={spoke}
          className={`size-[212px] max-md:hidden xl:size-[264px] ${kind === "dish" ? "low:hidden" : ""}`}
        />
        <div className="flex flex-col gap-1">
          {kind === "dish" ? (
            <DishEntry target={target} shown={readings.at("dish", "")} onMode={turn} />
          ) : mode === "ways" ? (
            <WaysByKey ways={ways} onMode={turn} />
          ) : (
            <SpokeEntry
              kind={kind}
              spoke={spoke}
              unitText={kind === "tension" ? sourceText(instrument, meter) : "mm"}
              halfStep={
                kind === "tension"
                  ? halfStepOf(instrument, meter ? stepOf(meter, derived, spoke) : undefined)
                  : 0.05
              }
              offered={offer?.steady ? offer.value : undefined}
              shown={readings.at(kind, spoke)}
              last={readings.at(kind, by(spoke, -1))?.text}
              onRecord={record}
              onBack={() => go(by(spoke, -1))}
              onForward={forward}
              onAcross={() => go(across(derived.spokes, spoke))}
              onMode={turn}
              around={[-2, -1, 0, 1, 2].map((step) => {
                const name = by(spoke, step);
                const there = readings.at(kind, name);
                return { name, text: there?.text ?? "", state: there?.state };
              })}
            />
          )}
          {streaming && (
            <LiveBar
              name={streaming.name}
              live={live}
              offer={offer}
              spoke={spoke}
              auto={auto}
              held={over}
              onAuto={setAuto}
              onTake={record}
            />
          )}
          <div className="flex flex-wrap items-center gap-x-4">
            <p role="status" className="text-base font-bold">
              {full &&
                say`All ${names.length} read. Enter goes on to ${KINDS[KINDS.indexOf(kind) + 1] ?? ""}.`}
            </p>
            <NextLine
              advice={advice.data}
              taken={(next) => readings.at(next.kind, next.spoke) !== undefined}
              onGo={(next, at) => {
                setFull(false);
                setMode(next);
                if (at) setSpoke(at);
              }}
            />
          </div>
        </div>
      </div>
      <section aria-label={say`What the readings say so far`} className="flex grow flex-col px-2 pb-2">
        <IfFailed of={state} />
        {state.data && (
          <>
            <p className="px-2 pb-1 font-bold">
              {state.data.headline}
              {ghost.said && (
                <span className="ml-4 text-sm font-normal text-muted">{say`thin line: ${ghost.said}`}</span>
              )}
            </p>
            <Strip
              state={state.data}
              unit={unit}
              lanes={LANES}
              selected={spoke}
              onSelect={go}
              over={ghost.over}
            />
          </>
        )}
      </section>
    </main>
  );
}

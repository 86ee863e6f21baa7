import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { type KeyboardEvent, useEffect, useRef, useState } from "react";
import type { Schemas } from "@/api/client";
import { askPractice } from "@/api/practiceQueries";
import { turnsText } from "@/features/bench/turns";
import { Strip } from "@/strip/Strip";
import type { ForceUnit } from "@/ui/forces";
import { useKeptFocus } from "@/ui/useKeptFocus";
import { classes } from "@/ui/classes";
import { WheelDrawing } from "@/wheelmap/WheelDrawing";
import { WriteState } from "@/write/useWrite";
import { EndAsked } from "./EndAsked";
import { FaultNamer } from "./FaultNamer";
import { Happened } from "./Happened";
import { NextMove } from "./NextMove";
import { PassTold } from "./PassTold";
import { Stand } from "./Stand";
import { StandKeys } from "./StandKeys";
import { playPluck } from "./pluck";
import { type Deed, useDeeds } from "./useRun";
import { leftOf } from "./planned";
import { useSpin } from "./useSpin";
import { steps, type StandDeed, standDeeds } from "./standDeeds";

interface StandBenchProps {
  run: Schemas["PracticeRun"];
  unit: ForceUnit;
}

const GAPS_MM = [0.25, 0.5, 0.75, 1, 1.5, 2, 3];

/** The stand: the rim between its pointers, and everything a hand may do to the wheel, by keys or touch. */
export function StandBench({ run, unit }: StandBenchProps) {
  const { now, mode, derived } = run;
  const names = derived.spokes.map((s) => s.name);
  const [place, setPlace] = useState(0);
  const [step, setStep] = useState(1 / 4);
  const [gap, setGap] = useState(GAPS_MM.indexOf(3));
  const [held, setHeld] = useState(true);
  const [told, setTold] = useState(0);
  const [ending, setEnding] = useState(false);
  const { act, write } = useDeeds(run.id);
  const bench = useRef<HTMLDivElement>(null);
  useEffect(() => bench.current?.focus({ preventScroll: true }), [told]);
  useKeptFocus(bench);
  const spoke = names[place] ?? "R1";
  const { angle, spinning, spin } = useSpin(derived.spokes[place]?.angle_deg ?? 0);
  const state = useQuery({
    ...askPractice.state(run.id, now.read_version),
    enabled: mode !== "eye" && now.read_version > 0,
  });
  const last = now.passes.at(-1);
  const judged = last && last.number > told && now.happened.what === "pass" ? last : undefined;

  const to = (by: number) => setPlace((at) => (at + by + names.length) % names.length);
  const select = (name: string) => setPlace(Math.max(0, names.indexOf(name)));
  const mine: Deed = { what: "turn", spoke, held };
  // The plan's nipples in their order; what was turned of them is behind.
  const turned = new Map(now.this_pass.map((t) => [t.spoke, t.turns]));
  const left = leftOf(now.moves, turned);
  const [open] = left;
  const doMove = () => {
    if (!open) return act({ what: "pass" });
    select(open.move.spoke);
    act({ ...mine, spoke: open.move.spoke, turns: open.turns });
  };
  const deeds: Record<StandDeed, () => void> = {
    tighten: () => act({ ...mine, turns: step }),
    ease: () => act({ ...mine, turns: -step }),
    step: () => setStep(steps[(steps.indexOf(step) + 1) % steps.length] ?? 1 / 4),
    back: () => to(-1),
    on: () => to(1),
    closer: () => setGap((at) => Math.max(0, at - 1)),
    wider: () => setGap((at) => Math.min(GAPS_MM.length - 1, at + 1)),
    spin,
    settle: () => act({ what: "settle" }),
    look: () => act({ what: "look" }),
    dish: () => act({ what: "dish" }),
    squeeze: () => act({ what: "squeeze", spoke }),
    pluck: () => playPluck(run.id, spoke),
    oil: () => act({ what: "oil", spoke }),
    nipple: () => act({ what: "nipple", spoke }),
    hold: () => setHeld(!held),
    straighten: () => act({ what: "straighten", spoke }),
    plan: () => act({ what: "plan" }),
    next: () => (mode === "plan" && now.moves.length > 0 ? doMove() : act({ what: "pass" })),
    end: () => setEnding(true),
  };
  const allowed = standDeeds(mode, run.blade, Boolean(open));
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.target !== bench.current && ["Enter", " "].includes(event.key)) return;
    const found = allowed.find((deed) => deed.key === event.key || deed.also === event.key);
    if (!found || event.ctrlKey || event.metaKey || event.altKey) return;
    event.preventDefault();
    // A key held down walks along the rim, and turns nothing twice.
    if (event.repeat && found.name !== "on" && found.name !== "back") return;
    deeds[found.name]();
  };

  if (judged)
    return (
      <div className="p-4">
        <PassTold pass={judged} names={names} onGoOn={() => setTold(judged.number)} />
      </div>
    );
  const strip = state.data ?? undefined;
  return (
    <div
      ref={bench}
      tabIndex={0}
      role="group"
      aria-label={say`The stand, at ${spoke}`}
      onKeyDown={onKeyDown}
      className="flex flex-1 flex-col gap-2 px-4 pt-1 shadow-none outline-none max-sm:px-2"
    >
      <div
        className={classes(
          "grid gap-x-6 gap-y-2 max-md:grid-cols-1",
          mode === "eye"
            ? "grid-cols-[minmax(0,720px)_minmax(0,1fr)]"
            : "grid-cols-[minmax(0,380px)_minmax(0,1fr)_auto] max-xl:grid-cols-[minmax(0,360px)_minmax(0,1fr)]",
        )}
      >
        <div className="flex flex-col gap-1">
          <Stand
            run={run}
            angle={angle}
            gapMm={GAPS_MM[gap] ?? 3}
            spoke={spoke}
            dials={mode !== "eye" && now.looked}
            large={mode === "eye"}
          />
          <Happened now={now} spoke={spoke} turned={turned.get(spoke) ?? 0} unit={unit} spinning={spinning} />
        </div>
        <div className="flex flex-col gap-2">
          <StandKeys
            planned={Boolean(open)}
            deeds={allowed}
            onDeed={(name) => deeds[name]()}
            step={step}
            held={held}
            now={now}
          />
          {mode === "find" && <FaultNamer run={run} spoke={spoke} act={act} />}
          <WriteState of={write} />
          {ending && (
            <EndAsked
              find={mode === "find"}
              onEnd={() => {
                setEnding(false);
                act({ what: "end" });
              }}
              onStay={() => {
                setEnding(false);
                bench.current?.focus({ preventScroll: true });
              }}
            />
          )}
        </div>
        {mode === "plan" && now.moves.length > 0 ? (
          <div className="w-[290px] max-xl:col-span-2 max-xl:w-auto max-md:order-first max-md:col-span-1">
            <NextMove next={open} left={left.length} unit={unit} />
          </div>
        ) : (
          mode !== "eye" && (
            <WheelDrawing
              derived={derived}
              selected={spoke}
              className="size-[230px] low:size-[200px] max-xl:hidden"
            />
          )
        )}
      </div>
      {strip ? (
        <section aria-label={say`What was read of this wheel`} className="flex grow flex-col">
          <Strip
            state={strip}
            unit={unit}
            lanes={{ lateral: 46, radial: 40, tension: 72, turns: 50 }}
            selected={spoke}
            onSelect={select}
            moves={
              now.moves.length > 0
                ? left.map(({ move, turns }) => ({
                    spoke: move.spoke,
                    turns,
                    fraction: turnsText(turns),
                    state: "todo",
                  }))
                : now.this_pass.map(({ spoke: name, turns }) => ({
                    spoke: name,
                    turns,
                    fraction: turnsText(turns),
                    state: "done",
                  }))
            }
          />
        </section>
      ) : (
        <p className="text-muted">
          {mode === "eye" ? (
            <Trans>
              By eye: close the pointers until the rim just rubs, spin, and see where. What you turn is
              counted, no figure is shown.
            </Trans>
          ) : (
            <Trans>
              Nothing was read since the last pass: look round with the dials, squeeze spokes with the meter.
            </Trans>
          )}
        </p>
      )}
    </div>
  );
}

import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { keys, touches } from "@/api/keys";
import { useWrite } from "@/write/useWrite";
import { useNavigate } from "react-router";
import { useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { sentenceOf } from "@/api/problem";
import { Button } from "@/ui/Button";
import { Fraction } from "@/ui/Fraction";
import { Notice } from "@/ui/Notice";
import { turnsText } from "./turns";
import { figure } from "@/ui/number";

export type Tried = Readonly<Record<string, number>>;

const STEP = 1 / 8;
const MOST = 4;

/** What the wheel would measure after turns by hand, asked of the server with each key. */
export function useWhatIf(setId: string, tried: Tried | null) {
  const some = tried !== null && Object.keys(tried).length > 0;
  return useQuery({
    queryKey: keys.ofSet(setId, "what-if", tried),
    queryFn: () =>
      answer(
        client.POST("/api/v1/reading-sets/{set_id}/what-if", {
          params: { path: { set_id: setId } },
          body: { turns: { ...tried } },
        }),
      ),
    enabled: some,
    placeholderData: (old) => old,
    retry: false,
    staleTime: Infinity,
  });
}

/** Turns tried by hand become a plan, as they are. */
export function usePlanOfTurns(jobId: string, setId: string) {
  const navigate = useNavigate();
  return useWrite({
    touches: touches.job(jobId),
    send: (tried: Tried, head) =>
      answer(
        client.POST("/api/v1/reading-sets/{set_id}/plans", {
          params: { path: { set_id: setId } },
          ...head,
          body: { turns: { ...tried } },
        }),
      ),
    fills: (plan) => keys.plan(plan.id),
    onSaved: async (plan) => {
      await navigate(`/jobs/${jobId}/plan/${plan.id}`);
    },
  });
}

interface WhatIfBarProps {
  selected: string;
  tried: Tried;
  found: Schemas["WhatIf"] | undefined;
  error: unknown;
  onTry: (tried: Tried) => void;
  onEnd: () => void;
  /** Makes a plan of what was tried; absent where this person may not. */
  onPlan?: (() => void) | undefined;
}

/** Try turns by hand: + tightens the spoke in work by an eighth, − eases it; the dotted line moves at once. Nothing is kept. */
export function WhatIfBar({ selected, tried, found, error, onTry, onEnd, onPlan }: WhatIfBarProps) {
  useEffect(() => {
    const byKey = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement;
      if (["INPUT", "SELECT", "TEXTAREA"].includes(target.tagName)) return;
      const by = { "+": STEP, "-": -STEP }[event.key];
      if (by) {
        event.preventDefault();
        onTry(turned(tried, selected, by));
      }
    };
    document.addEventListener("keydown", byKey);
    return () => document.removeEventListener("keydown", byKey);
  }, [tried, selected, onTry]);
  const here = tried[selected] ?? 0;
  const count = Object.keys(tried).length;
  return (
    <section
      aria-label={say`What if`}
      className="flex flex-wrap items-center gap-3 rounded-md border border-line bg-plate px-3 py-1"
    >
      <strong>
        <Trans>What if</Trans>
      </strong>
      <span className="font-figure text-2xl font-bold">{selected}</span>
      <Button aria-label={say`Ease by an eighth`} onClick={() => onTry(turned(tried, selected, -STEP))}>
        ▽ −⅛
      </Button>
      <span className="min-w-28 text-center" aria-live="polite">
        {here === 0 ? (
          say`as it is`
        ) : (
          <>
            {here > 0 ? say`▲ tighten` : say`▽ ease`} <Fraction text={turnsText(here)} />
          </>
        )}
      </span>
      <Button aria-label={say`Tighten by an eighth`} onClick={() => onTry(turned(tried, selected, STEP))}>
        ▲ +⅛
      </Button>
      {found && count > 0 && (
        <span role="status" aria-label={say`It would measure`}>
          {found.checks.map((c) => (
            <span key={c.figure} className={`mr-4 ${c.met ? "" : "font-bold text-danger"}`}>
              {c.figure}{" "}
              <span className="font-figure">
                {c.figure === "tension" ? `±${figure(c.value, 0)} %` : `${figure(c.value, 2)} mm`}
              </span>{" "}
              {c.met ? "✓" : "✕"}
            </span>
          ))}
        </span>
      )}
      {found && found.over_cap.length > 0 && count > 0 && (
        <Notice kind="caution">
          <Trans>{found.over_cap.join(", ")} above the rim&rsquo;s limit.</Trans>
        </Notice>
      )}
      {Boolean(error) && <Notice kind="refusal">{sentenceOf(error)}</Notice>}
      <span className="ml-auto flex gap-2">
        {onPlan && (
          <Button onClick={onPlan} disabled={count === 0}>
            <Trans>Make it a plan</Trans>
          </Button>
        )}
        <Button onClick={() => onTry({})} disabled={count === 0}>
          <Trans>All back</Trans>
        </Button>
        <Button onClick={onEnd}>
          <Trans>Enough</Trans>
        </Button>
      </span>
    </section>
  );
}

function turned(tried: Tried, spoke: string, by: number): Tried {
  const next = Math.max(-MOST, Math.min(MOST, (tried[spoke] ?? 0) + by));
  const rest = Object.fromEntries(Object.entries(tried).filter(([name]) => name !== spoke));
  return Math.abs(next) < 1e-9 ? rest : { ...rest, [spoke]: next };
}

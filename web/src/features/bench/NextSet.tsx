import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { keys, touches } from "@/api/keys";
import { useQueryClient } from "@tanstack/react-query";
import { useContact } from "@/app/contact";
import { enter } from "@/write/outbox";
import { useEffect, useRef } from "react";
import { useNavigate } from "react-router";
import { answer, client, newId, type Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { Menu, MenuItem } from "@/ui/Menu";
import { useKeptFocus } from "@/ui/useKeptFocus";
import { useWrite, WriteState } from "@/write/useWrite";

export function useOpenSet(jobId: string) {
  const navigate = useNavigate();
  const { away } = useContact();
  const here = useOpenHere(jobId);
  const there = useWrite({
    touches: touches.job(jobId),
    send: (stage: Schemas["SetStageEnum"], head) =>
      answer(
        client.POST("/api/v1/jobs/{job_id}/reading-sets", {
          params: { path: { job_id: jobId } },
          ...head,
          body: { stage },
        }),
      ),
    onSaved: async (set) => {
      await navigate(`/jobs/${jobId}/readings/${set.id}`);
    },
  });
  const open = (stage: Schemas["SetStageEnum"]) =>
    away || !navigator.onLine ? here(stage) : there.go(stage);
  return { ...there, go: open };
}

/** Off the net a set is begun on the tablet: named here, shown at once, and told to the server before its readings. */
function useOpenHere(jobId: string) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  return (stage: Schemas["SetStageEnum"]) => {
    const set_id = newId();
    const sets = queries.getQueryData<Schemas["ReadingSet"][]>(keys.ofJob(jobId, "sets")) ?? [];
    const made: Schemas["ReadingSet"] = {
      id: set_id,
      job_id: jobId,
      stage,
      number: Math.max(0, ...sets.map((set) => set.number)) + 1,
      by: "",
      created_at: new Date().toISOString(),
    };
    queries.setQueryData(keys.ofJob(jobId, "sets"), [...sets, made]);
    queries.setQueryData(keys.ofSet(set_id, "readings"), { ...made, readings: [] });
    enter("reading_set", { job_id: jobId, set_id }, { stage, set_id });
    void navigate(`/jobs/${jobId}/readings/${set_id}`);
  };
}

/** Measure again: after this pass, or already as the wheel leaves. */
export function NextSet({ jobId, weight }: { jobId: string; weight: "now" | "plain" }) {
  const open = useOpenSet(jobId);
  return (
    <>
      <Button weight={weight} onClick={() => open.go("after_pass")} disabled={open.pending}>
        <Trans>Measure again</Trans>
      </Button>
      <Menu label={say`Measure as`} trigger={say`as …`}>
        <MenuItem onSelect={() => open.go("after_pass")}>
          <Trans>After a pass</Trans>
        </MenuItem>
        <MenuItem onSelect={() => open.go("as_left")}>
          <Trans>As left</Trans>
        </MenuItem>
      </Menu>
    </>
  );
}

/** The walk is done: Enter leads on to measuring again, Backspace back to the last nipple. */
export function WalkDone({ jobId, onBack }: { jobId: string; onBack: () => void }) {
  const open = useOpenSet(jobId);
  const card = useRef<HTMLDivElement>(null);
  useEffect(() => card.current?.focus(), []);
  useKeptFocus(card);
  return (
    <div
      ref={card}
      tabIndex={0}
      role="group"
      aria-label={say`The walk is done`}
      onKeyDown={(event) => {
        if (event.target !== card.current || event.repeat) return;
        if (event.key === "Enter" && !open.pending) open.go("after_pass");
        else if (event.key === "Backspace") onBack();
        else return;
        event.preventDefault();
      }}
      className="flex min-h-[224px] flex-col justify-center gap-3 self-start rounded-md border border-line bg-plate px-6 py-2 max-sm:px-3"
    >
      <p className="text-4xl font-bold">
        <Trans>The walk is done</Trans>
      </p>
      <p className="text-lg">
        <Trans>
          Settle the spokes, then measure again: the next plan starts from what the wheel really did.
        </Trans>
      </p>
      <div className="flex flex-wrap gap-3">
        <Button
          weight="now"
          onClick={() => open.go("after_pass")}
          disabled={open.pending}
          className="min-w-44"
        >
          <Trans>Measure again</Trans>{" "}
          <kbd className="font-figure text-sm">
            <Trans>Enter</Trans>
          </kbd>
        </Button>
        <Button weight="quiet" onClick={onBack}>
          <Trans>← back</Trans>
        </Button>
      </div>
      <WriteState of={open} />
    </div>
  );
}

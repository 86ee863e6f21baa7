import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { keys, touches } from "@/api/keys";
import { askRecord } from "@/api/recordQueries";
import { Button } from "@/ui/Button";
import { typedNumber } from "@/ui/number";
import { NumberField } from "@/ui/NumberField";
import { Notice } from "@/ui/Notice";
import { dayAndTime } from "@/ui/when";
import { useWrite, WriteState } from "@/write/useWrite";
import { NextSet } from "./NextSet";

type Resume = Schemas["Resume"];

/** A plan that was left half way: before the next nipple, the two readings that best show whether anybody turned one. */
export function ResumeFirst({ jobId, planId, unit }: { jobId: string; planId: string; unit: "N" | "kgf" }) {
  const asked = useQuery(askRecord.resume(planId));
  const [later, setLater] = useState(false);
  const found = asked.data;
  if (!found?.left_at || later) return null;
  if (!found.due) {
    return (
      <div className="flex flex-wrap items-center gap-3 px-4 pt-2">
        <Notice kind={found.held ? "news" : "caution"}>
          {found.said} ({found.proved_by}, {dayAndTime(found.proved_at ?? found.left_at)})
        </Notice>
        {!found.held && <NextSet jobId={jobId} weight="now" />}
      </div>
    );
  }
  return <Readings jobId={jobId} planId={planId} found={found} unit={unit} onLater={() => setLater(true)} />;
}

interface ReadingsProps {
  jobId: string;
  planId: string;
  found: Resume;
  unit: "N" | "kgf";
  onLater: () => void;
}

function Readings({ jobId, planId, found, unit, onLater }: ReadingsProps) {
  const readings = found.readings ?? [];
  const [values, setValues] = useState<Record<string, string>>({});
  const prove = useWrite({
    touches: [...touches.job(jobId)],
    fills: () => keys.resume(planId),
    send: (taken: Schemas["ReadingEntryRequest"][], head) =>
      answer(
        client.POST("/api/v1/plans/{plan_id}/resume", {
          ...head,
          params: { path: { plan_id: planId } },
          body: { readings: taken },
        }),
      ),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    prove.go(
      readings.flatMap(({ kind, spoke, meter }): Schemas["ReadingEntryRequest"][] => {
        const value = typedNumber(values[kind + spoke] ?? "");
        if (value === null) return [];
        const entry = { kind: kind as "tension" | "lateral", spoke, value };
        if (kind === "lateral") return [{ ...entry, unit: "mm" as const }];
        return [meter ? { ...entry, unit: "meter" as const, meter } : { ...entry, unit }];
      }),
    );
  };
  const runout = readings.every((one) => one.kind === "lateral");
  return (
    <form
      onSubmit={submit}
      aria-label={say`Before going on`}
      className="mx-4 mt-2 flex flex-wrap items-end gap-x-4 gap-y-1 rounded-sm border border-line-strong bg-plate px-3 py-2"
    >
      <p className="min-w-56 flex-1 self-center">
        <strong>
          <Trans>
            Left at {found.last_spoke} by {found.left_by}, {dayAndTime(found.left_at ?? "")}. Next is{" "}
            {found.next_spoke}.
          </Trans>
        </strong>{" "}
        <Trans>
          Read these two first: half a turn at {found.shows_percent} of 100 nipples would show in them.
        </Trans>
        {runout && (
          <>
            {" "}
            <Trans>The dial’s zero may be any, but the same for both.</Trans>
          </>
        )}
      </p>
      {readings.map(({ kind, spoke, meter }) => (
        <NumberField
          key={kind + spoke}
          className="w-44"
          label={
            kind === "lateral"
              ? say`${spoke} lateral, mm (+ right)`
              : say`${spoke} tension, ${meter ? say`as the meter shows` : unit}`
          }
          unit={kind === "lateral" ? "mm" : meter ? say`on the meter` : unit}
          value={values[kind + spoke] ?? ""}
          onChange={(value) => setValues((v) => ({ ...v, [kind + spoke]: value }))}
          required
          error={prove.refused?.for(`${kind}.${spoke}`)}
        />
      ))}
      <Button type="submit" disabled={prove.pending}>
        <Trans>As it was left?</Trans>
      </Button>
      <Button weight="quiet" onClick={onLater}>
        <Trans>Go on without</Trans>
      </Button>
      <WriteState of={prove} fields={readings.map(({ kind, spoke }) => `${kind}.${spoke}`)} />
    </form>
  );
}

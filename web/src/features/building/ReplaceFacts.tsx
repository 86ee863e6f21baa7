import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { figure, typedNumber } from "@/ui/number";
import { NumberField } from "@/ui/NumberField";
import { WriteState } from "@/write/useWrite";
import { useState } from "react";
import type { Schemas } from "@/api/client";
import { Problem, sentenceOf } from "@/api/problem";
import { Button, ButtonLink } from "@/ui/Button";
import { shownForce } from "@/ui/forces";
import { Notice } from "@/ui/Notice";
import { WheelDrawing } from "@/wheelmap/WheelDrawing";
import { useSizing } from "./useSizing";

interface ReplaceFactsProps {
  spoke: Schemas["ReplacedSpoke"];
  derived: Schemas["Derived"];
  unit: "N" | "kgf";
  jobId: string;
  closed: boolean;
}

/** What the hands need to know of one place: where it hangs, how long, how tight, how it runs. */
export function ReplaceFacts({ spoke, derived, unit, jobId, closed }: ReplaceFactsProps) {
  return (
    <aside aria-label={say`About ${spoke.spoke}`} className="flex flex-col gap-3">
      <WheelDrawing derived={derived} selected={spoke.spoke} className="mx-auto size-56" />
      <dl className="grid grid-cols-[auto_1fr] items-baseline gap-x-4 gap-y-1">
        <dt className="text-muted">
          <Trans>length</Trans>
        </dt>
        <dd>
          <Trans>
            <span className="font-figure text-arm font-bold">{figure(spoke.length_mm)}</span> mm{" "}
            <span className="text-sm text-muted">
              {spoke.length_is_chosen ? say`as chosen` : say`computed, not chosen yet`}
              {spoke.old_length_mm !== null && (
                <>
                  <Trans>; the old one was {figure(spoke.old_length_mm)} mm</Trans>
                </>
              )}
            </span>
          </Trans>
        </dd>
        <dt className="text-muted">
          <Trans>bring it to</Trans>
        </dt>
        <dd>
          {spoke.neighbours_n === null ? (
            <span>
              <Trans>
                its neighbours {spoke.neighbours.join(" and ")}: <strong>read them first</strong>
              </Trans>
            </span>
          ) : (
            <>
              <span className="font-figure text-arm font-bold">{shownForce(spoke.neighbours_n, unit)}</span>{" "}
              {unit}{" "}
              <span className="text-sm text-muted">
                <Trans>as {spoke.neighbours.join(" and ")}</Trans>
              </span>
            </>
          )}
        </dd>
        <dt className="text-muted">
          <Trans>runs</Trans>
        </dt>
        <dd>
          <Trans>
            {spoke.lean}, head {spoke.head}
            {spoke.crosses.length > 0 && <>; {spoke.crosses.map((c) => `${c.way} ${c.spoke}`).join(", ")}</>}
            <span className="block text-sm text-muted">
              As usually laced: look at the next but one first.
            </span>
          </Trans>
        </dd>
      </dl>
      {!closed && !spoke.length_is_chosen && <Length spoke={spoke} jobId={jobId} />}
      <Notice kind="caution">
        <Trans>Never ride on a broken spoke. Bend the new one gently; never kink it.</Trans>
      </Notice>
    </aside>
  );
}

/** The length by the old spoke, or by the drawing; one that would break the nipple is refused. */
function Length({ spoke, jobId }: { spoke: Schemas["ReplacedSpoke"]; jobId: string }) {
  const writes = useSizing(jobId);
  const [old, setOld] = useState("");
  const problem = writes.old.error instanceof Problem ? writes.old.error : null;
  const side = spoke.spoke.startsWith("R") ? "R" : "L";
  return (
    <form
      className="flex flex-wrap items-start gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        writes.old.go({ spoke: spoke.spoke, length_mm: typedNumber(old) ?? NaN });
      }}
    >
      {spoke.old_length_mm === null ? (
        <>
          <NumberField
            label={say`The old one, mm`}
            min={0}
            unit="mm"
            value={old}
            onChange={setOld}
            error={problem ? (problem.for("length_mm") ?? sentenceOf(problem)) : undefined}
            className="w-40"
          />
          <Button type="submit" className="mt-6" disabled={!old.trim() || writes.old.pending}>
            <Trans>Log it</Trans>
          </Button>
        </>
      ) : (
        <Button
          weight="now"
          disabled={writes.choose.pending}
          onClick={() => writes.choose.go({ side, length_mm: spoke.old_length_mm ?? 0 })}
        >
          <Trans>As the old one, {figure(spoke.old_length_mm)}</Trans>
        </Button>
      )}
      <ButtonLink className={spoke.old_length_mm === null ? "mt-6" : ""} to={`/jobs/${jobId}/spokes`}>
        <Trans>By the drawing</Trans>
      </ButtonLink>
      <WriteState of={writes.choose} />
    </form>
  );
}

import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { ask } from "@/api/queries";
import { JobHead } from "@/app/JobHead";
import { figure } from "@/ui/number";
import { Button } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { Notice } from "@/ui/Notice";
import { NotYet } from "@/ui/NotYet";
import { CrossingsDialog } from "./CrossingsDialog";
import { KitSheet } from "./KitSheet";
import { OldSpokesDialog } from "./OldSpokesDialog";
import { SideLengths } from "./SideLengths";
import { SwapDialog } from "./SwapDialog";
import { useSizing } from "./useSizing";

/** Which spokes, do all parts fit each other, where do I get them. */
export default function SpokesPage() {
  const { jobId = "" } = useParams();
  const [step, setStep] = useState("1");
  const [school, setSchool] = useState<"nearest" | "down">("nearest");
  const [open, setOpen] = useState<"" | "old" | "crossings" | "swap">("");
  const job = useQuery(ask.job(jobId));
  const sizing = useQuery(ask.sizing(jobId, Number(step), school));
  const writes = useSizing(jobId);
  if (!job.data || !sizing.data) return <NotYet of={[job, sizing]} what={say`the spokes`} />;
  const closed = Boolean(job.data.handed_back_at);
  const found = sizing.data;
  const close = () => setOpen("");
  return (
    <main className="flex flex-1 flex-col">
      <JobHead job={job.data} title={say`Spokes and kit`}>
        <Button onClick={() => setOpen("old")}>
          <Trans>Old spokes</Trans>
        </Button>
        <Button onClick={() => setOpen("crossings")}>
          <Trans>Crossings</Trans>
        </Button>
        <Button onClick={() => setOpen("swap")}>
          <Trans>Another rim or hub</Trans>
        </Button>
      </JobHead>
      <div className="grid flex-1 grid-cols-1 gap-6 p-4 xl:grid-cols-[1fr_320px]">
        <div className="flex min-w-0 flex-col gap-3">
          <div className="flex flex-wrap items-center gap-4">
            <Choice
              label={say`Steps of length`}
              value={step}
              onChange={setStep}
              small
              options={found.steps_mm.map((mm) => ({ value: String(mm), text: `${figure(mm)} mm` }))}
            />
            <Choice<"nearest" | "down">
              label={say`Rounding`}
              value={school}
              onChange={setSchool}
              small
              options={found.schools.map((s) => ({
                value: s.key as "nearest" | "down",
                text: s.key === "nearest" ? say`to the nearest` : say`down`,
                hint: s.why,
              }))}
            />
            <p className="max-w-md text-sm text-muted">{found.schools.find((s) => s.key === school)?.why}</p>
          </div>
          {!found.measured && (
            <Notice kind="caution">
              <Trans>
                These dimensions are those of a generic kind, so the lengths are a guess.{" "}
                <Link className="underline" to={`/jobs/${jobId}/parts`}>
                  Measure the wheel
                </Link>{" "}
                before anything is ordered or cut.
              </Trans>
            </Notice>
          )}
          {found.suspicions.map((s) => (
            <Notice key={s.field} kind="caution">
              {s.why}
            </Notice>
          ))}
          {found.sides.map((side) => (
            <SideLengths key={side.side} job={job.data} sizing={found} side={side} writes={writes} />
          ))}
          <p className="text-xs text-muted">
            <Trans>
              The green window is where the end belongs: 0 to 1 mm below the slot (common practice). The rim
              and hub makers&rsquo; figures come first.
            </Trans>
          </p>
        </div>
        <KitSheet sizing={found} writes={writes} closed={closed} />
      </div>
      {open === "old" && <OldSpokesDialog sizing={found} writes={writes} closed={closed} onClose={close} />}
      {open === "crossings" && <CrossingsDialog sizing={found} onClose={close} />}
      {open === "swap" && <SwapDialog jobId={jobId} onClose={close} />}
    </main>
  );
}

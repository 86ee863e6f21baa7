import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useParams } from "react-router";
import { ask } from "@/api/queries";
import { JobHead } from "@/app/JobHead";
import { ButtonLink } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { Notice } from "@/ui/Notice";
import { NotYet } from "@/ui/NotYet";
import { DamageMap } from "@/wheelmap/DamageMap";
import { Breaks } from "./Breaks";
import { FrameGauge } from "./FrameGauge";
import { Marks } from "./Marks";
import { NewMark } from "./NewMark";

type Part = "rim" | "breaks" | "frame";

/** Rim, spokes, hub and frame: what was found, where, and what it means. */
export default function ConditionPage() {
  const { jobId = "" } = useParams();
  const job = useQuery(ask.job(jobId));
  const condition = useQuery(ask.condition(jobId));
  const [spoke, setSpoke] = useState("R1");
  const [part, setPart] = useState<Part>("rim");
  if (!job.data || !condition.data) return <NotYet of={[job, condition]} what={say`the wheel's condition`} />;
  const found = condition.data;
  const derived = job.data.wheel.derived;
  const closed = Boolean(job.data.handed_back_at);
  const step = (by: number) => {
    const names = derived.spokes.map((s) => s.name);
    setSpoke(names[(names.indexOf(spoke) + by + names.length) % names.length] ?? "R1");
  };
  return (
    <main className="flex flex-1 flex-col">
      <JobHead job={job.data} title={say`What was found on it`}>
        <ButtonLink to={`/jobs/${jobId}/decide`}>
          <Trans>Decide</Trans>
        </ButtonLink>
      </JobHead>
      <div className="grid flex-1 grid-cols-1 gap-6 p-4 lg:grid-cols-[minmax(0,520px)_1fr]">
        <div className="flex flex-col gap-2">
          <DamageMap
            derived={derived}
            marks={found.marks}
            breaks={found.breaks}
            bent={found.bends.flatMap((b) => b.spokes)}
            selected={spoke}
            onSelect={setSpoke}
            className="mx-auto max-h-[calc(100dvh-190px)] w-full"
          />
          <p className="text-sm text-muted">
            <Trans>
              Seen from the right, valve at the top. Touch the rim to choose a spoke. ○ recorded, ◇ watch, ◆
              not to be ridden; a broken line: broke once.
            </Trans>
          </p>
        </div>
        <div className="flex min-w-0 flex-col gap-4">
          {found.bends.map((bend) => (
            <Notice key={bend.spokes.join()} kind="caution">
              <Trans>
                {bend.spokes[0]} to {bend.spokes.at(-1)}: {bend.why}. A bent rim; spokes cannot hold it for
                long.
              </Trans>
            </Notice>
          ))}
          <Choice<Part>
            label={say`What was looked at`}
            value={part}
            onChange={setPart}
            options={[
              { value: "rim", text: say`Rim, spokes, hub` },
              { value: "breaks", text: say`Breaks${found.breaks.length ? ` (${found.breaks.length})` : ""}` },
              { value: "frame", text: job.data.wheel.position === "rear" ? say`Frame` : say`Fork` },
            ]}
          />
          {part === "rim" && (
            <>
              {!closed && (
                <NewMark
                  jobId={jobId}
                  kinds={found.kinds}
                  spoke={spoke}
                  onSpoke={setSpoke}
                  onStep={step}
                  carbon={found.rim_material === "carbon"}
                />
              )}
              <Marks jobId={jobId} marks={found.marks} closed={closed} onSelect={setSpoke} />
            </>
          )}
          {part === "breaks" && (
            <Breaks jobId={jobId} found={found} spoke={spoke} onSpoke={setSpoke} closed={closed} />
          )}
          {part === "frame" && (
            <FrameGauge
              jobId={jobId}
              frame={found.frame}
              rear={job.data.wheel.position === "rear"}
              closed={closed}
            />
          )}
        </div>
      </div>
    </main>
  );
}

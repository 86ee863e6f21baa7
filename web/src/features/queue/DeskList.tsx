import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useMemo, useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "@/api/client";
import { useMay } from "@/app/useMay";
import { Button, ButtonLink } from "@/ui/Button";
import { word } from "@/ui/words";
import { CallDialog } from "./CallDialog";

type Task = Schemas["DeskTask"];

/** A task with its job. */
export interface DeskCall {
  kind: Task["kind"];
  why: string;
  job: Schemas["RailJob"];
}

const DEEDS: Record<Task["kind"], string> = {
  call: say`Call: the promise is in danger`,
  approve: say`Ask for the customer's word`,
  promise: say`Give a promise`,
  fetch: say`Tell that it is ready`,
  unclaimed: say`Unclaimed by the shop's rule`,
};
const SHOWN = 5;

/** The desk's next: calls, approvals, promises and wheels to be fetched; never bench work. */
export function DeskList({ rail }: { rail: Schemas["Rail"] }) {
  const [calling, setCalling] = useState<DeskCall>();
  const [all, setAll] = useState(false);
  const may = useMay();
  const jobs = useMemo(
    () => new Map([...rail.hanging, ...rail.ready].map((h) => [h.job.number, h.job])),
    [rail.hanging, rail.ready],
  );
  const tasks = (all ? rail.desk : rail.desk.slice(0, SHOWN)).flatMap((task) => {
    const job = jobs.get(task.number);
    return job ? [{ ...task, job }] : [];
  });
  return (
    <section aria-label={say`Next at the desk`} className="flex flex-col gap-1">
      <div className="flex flex-wrap items-center gap-4">
        <h2 className="text-lg">
          {rail.desk.length ? say`Next at the desk` : say`Nobody is to be called just now`}
        </h2>
        {rail.desk.length > SHOWN && (
          <Button weight="quiet" onClick={() => setAll((on) => !on)}>
            {all ? say`The first ${SHOWN}` : say`All ${rail.desk.length}`}
          </Button>
        )}
        {may("job_open") && (
          <ButtonLink to="/take-in" weight="now" className="ml-auto">
            <Trans>Take in a wheel</Trans>
          </ButtonLink>
        )}
      </div>
      <ol>
        {tasks.map((task) => (
          <li
            key={`${task.kind}-${task.job.id}`}
            className="grid grid-cols-[15rem_1fr_auto] items-center gap-x-4 border-t border-line py-0.5 max-md:grid-cols-[1fr_auto]"
          >
            <strong className={task.kind === "call" ? "text-danger" : ""}>{DEEDS[task.kind]}</strong>
            <span className="max-md:col-span-2 max-md:row-start-2">
              <Link to={`/jobs/${task.job.id}`} className="tap underline underline-offset-4">
                <span className="font-figure font-bold">{task.job.number}</span> {task.job.customer}
              </Link>
              , {word(task.job.wheel.position)}, {task.job.bike}{" "}
              <span className="text-sm text-muted">{task.why}</span>
            </span>
            <Button className="min-h-10" onClick={() => setCalling(task)}>
              {task.kind === "promise" ? say`Dates …` : say`The words …`}
            </Button>
          </li>
        ))}
      </ol>
      {calling && <CallDialog task={calling} onClose={() => setCalling(undefined)} />}
    </section>
  );
}

import { useWrite } from "@/write/useWrite";
import { touches } from "@/api/keys";
import { Link, useNavigate } from "react-router";
import { answer, client, type Schemas } from "@/api/client";
import { Button, ButtonLink } from "@/ui/Button";
import { dayAndTime, timeOf } from "@/ui/when";

interface StageWorkProps {
  job: Schemas["Job"];
  stage: string;
  current: boolean;
  past: boolean;
  sets: readonly Schemas["ReadingSet"][];
  plans: readonly Schemas["PlanSummary"][];
}

const LINK = "underline underline-offset-4";

/** What has been done at a stage, and the way to its work. */
export function StageWork({ job, stage, current, past, sets, plans }: StageWorkProps) {
  const weight = current ? "now" : "plain";
  const newest = sets.at(-1);
  switch (stage) {
    case "take_in":
      return <span className="text-muted">{dayAndTime(job.created_at)}</span>;
    case "check_on_bike":
    case "check_off_bike":
      if (current)
        return (
          <>
            <ButtonLink weight="now" to={`/jobs/${job.id}/checks`}>
              Find out what is wrong
            </ButtonLink>
            <ButtonLink to={`/jobs/${job.id}/condition`}>Note what is found</ButtonLink>
          </>
        );
      return past ? (
        <Link className={LINK} to={`/jobs/${job.id}/${stage === "check_on_bike" ? "checks" : "condition"}`}>
          {stage === "check_on_bike" ? "what is wrong" : "what was found on it"}
        </Link>
      ) : null;
    case "identify":
      return (
        <>
          <span>
            {job.wheel.derived.spokes.length} spokes,{" "}
            {job.wheel.measured ? "measured" : "from a generic kind"}
          </span>
          {current ? (
            <ButtonLink weight={weight} to={`/jobs/${job.id}/parts`}>
              Parts of the wheel
            </ButtonLink>
          ) : (
            <Link className={LINK} to={`/jobs/${job.id}/parts`}>
              parts of the wheel
            </Link>
          )}
        </>
      );
    case "as_found":
      return (
        <Sets
          job={job}
          stage="as_found"
          current={current}
          sets={sets.filter((s) => s.stage === "as_found")}
        />
      );
    case "decide":
      return (
        <>
          {newest && (current || past) && (
            <Link className={LINK} to={`/jobs/${job.id}/state/${newest.id}`}>
              state of the wheel
            </Link>
          )}
          {current ? (
            <ButtonLink weight={weight} to={`/jobs/${job.id}/decide`}>
              Lay it before the customer
            </ButtonLink>
          ) : past ? (
            <Link className={LINK} to={`/jobs/${job.id}/decide`}>
              what was decided
            </Link>
          ) : null}
        </>
      );
    case "parts":
      return current ? (
        <ButtonLink weight={weight} to={`/jobs/${job.id}/spokes`}>
          Spokes and kit
        </ButtonLink>
      ) : (
        <Link className={LINK} to={`/jobs/${job.id}/spokes`}>
          spokes and kit
        </Link>
      );
    case "strip_lace":
      return <Lacing job={job} current={current} />;
    case "true":
      return <Truing job={job} current={current} sets={sets} plans={plans} newest={newest} />;
    case "as_left":
      return (
        <Sets job={job} stage="as_left" current={current} sets={sets.filter((s) => s.stage === "as_left")} />
      );
    case "refit":
      return current ? (
        <ButtonLink weight={weight} to={`/jobs/${job.id}/refit`}>
          Refit, step by step
        </ButtonLink>
      ) : past ? (
        <Link className={LINK} to={`/jobs/${job.id}/refit`}>
          refit
        </Link>
      ) : null;
    case "hand_back":
      if (sets.length === 0) return null;
      return current ? (
        <ButtonLink weight={weight} to={`/jobs/${job.id}/sign-off`}>
          Sign off and hand back
        </ButtonLink>
      ) : (
        <Link className={LINK} to={`/jobs/${job.id}/sign-off`}>
          {job.handed_back_at ? "as found and as left" : "sign-off"}
        </Link>
      );
    default:
      return null;
  }
}

/** Replacing a spoke, taking apart, lacing: whichever this job needs. */
function Lacing({ job, current }: { job: Schemas["Job"]; current: boolean }) {
  const ways: readonly [string, string][] = [
    ["replace", "replace spokes"],
    ["strip", "strip"],
    ["lacing", "lace"],
  ];
  return ways.map(([path, name]) =>
    current ? (
      <ButtonLink key={path} to={`/jobs/${job.id}/${path}`}>
        {name[0]?.toUpperCase() + name.slice(1)}
      </ButtonLink>
    ) : (
      <Link key={path} className={LINK} to={`/jobs/${job.id}/${path}`}>
        {name}
      </Link>
    ),
  );
}

function Truing({
  job,
  current,
  sets,
  plans,
  newest,
}: Omit<StageWorkProps, "stage" | "past"> & { newest: Schemas["ReadingSet"] | undefined }) {
  const last = plans.at(-1);
  const open = current && last && last.reading_set_id === newest?.id;
  return (
    <>
      {plans.map((plan, i) => (
        <Link key={plan.id} className={LINK} to={`/jobs/${job.id}/plan/${plan.id}`}>
          plan {i + 1}
        </Link>
      ))}
      {sets
        .filter((s) => s.stage === "after_pass")
        .map((s) => (
          <Link key={s.id} className={LINK} to={`/jobs/${job.id}/state/${s.id}`}>
            after, set {s.number}
          </Link>
        ))}
      {open && (
        <ButtonLink weight="now" to={`/jobs/${job.id}/plan/${last.id}`}>
          Work the plan
        </ButtonLink>
      )}
      {current && !open && newest && (
        <ButtonLink weight="now" to={`/jobs/${job.id}/state/${newest.id}`}>
          State, then plan
        </ButtonLink>
      )}
    </>
  );
}

interface SetsProps {
  job: Schemas["Job"];
  stage: Schemas["SetStageEnum"];
  current: boolean;
  sets: readonly Schemas["ReadingSet"][];
}

function Sets({ job, stage, current, sets }: SetsProps) {
  const navigate = useNavigate();
  const open = useWrite({
    touches: touches.job(job.id),
    send: (_: void, head) =>
      answer(
        client.POST("/api/v1/jobs/{job_id}/reading-sets", {
          params: { path: { job_id: job.id } },
          ...head,
          body: { stage },
        }),
      ),
    onSaved: async (set) => {
      await navigate(`/jobs/${job.id}/readings/${set.id}`);
    },
  });
  return (
    <>
      {sets.map((set) => (
        <Link
          key={set.id}
          className={LINK}
          to={`/jobs/${job.id}/${current ? "readings" : "state"}/${set.id}`}
        >
          set {set.number}, {set.by.split(" ")[0]} {timeOf(set.created_at)}
        </Link>
      ))}
      {current && !job.handed_back_at && (
        <Button weight={sets.length ? "plain" : "now"} onClick={() => open.go()} disabled={open.pending}>
          {sets.length ? "New set" : "Take the readings"}
        </Button>
      )}
      {current && sets.length > 0 && (
        <ButtonLink weight="now" to={`/jobs/${job.id}/readings/${sets.at(-1)?.id}`}>
          Go on reading
        </ButtonLink>
      )}
    </>
  );
}

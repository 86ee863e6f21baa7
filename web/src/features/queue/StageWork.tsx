import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
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

const LINK = "tap underline underline-offset-4";

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
              <Trans>Find out what is wrong</Trans>
            </ButtonLink>
            <ButtonLink to={`/jobs/${job.id}/condition`}>
              <Trans>Note what is found</Trans>
            </ButtonLink>
          </>
        );
      return past ? (
        <Link className={LINK} to={`/jobs/${job.id}/${stage === "check_on_bike" ? "checks" : "condition"}`}>
          {stage === "check_on_bike" ? say`what is wrong` : say`what was found on it`}
        </Link>
      ) : null;
    case "identify":
      return (
        <>
          <span>
            <Trans>
              {job.wheel.derived.spokes.length} spokes,{" "}
              {job.wheel.measured ? "measured" : say`from a generic kind`}
            </Trans>
          </span>
          {current ? (
            <ButtonLink weight={weight} to={`/jobs/${job.id}/parts`}>
              <Trans>Parts of the wheel</Trans>
            </ButtonLink>
          ) : (
            <Link className={LINK} to={`/jobs/${job.id}/parts`}>
              <Trans>parts of the wheel</Trans>
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
              <Trans>state of the wheel</Trans>
            </Link>
          )}
          {current ? (
            <ButtonLink weight={weight} to={`/jobs/${job.id}/decide`}>
              <Trans>Lay it before the customer</Trans>
            </ButtonLink>
          ) : past ? (
            <Link className={LINK} to={`/jobs/${job.id}/decide`}>
              <Trans>what was decided</Trans>
            </Link>
          ) : null}
        </>
      );
    case "parts":
      return current ? (
        <ButtonLink weight={weight} to={`/jobs/${job.id}/spokes`}>
          <Trans>Spokes and kit</Trans>
        </ButtonLink>
      ) : (
        <Link className={LINK} to={`/jobs/${job.id}/spokes`}>
          <Trans>spokes and kit</Trans>
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
          <Trans>Refit, step by step</Trans>
        </ButtonLink>
      ) : past ? (
        <Link className={LINK} to={`/jobs/${job.id}/refit`}>
          <Trans>refit</Trans>
        </Link>
      ) : null;
    case "hand_back":
      if (sets.length === 0) return null;
      return current ? (
        <ButtonLink weight={weight} to={`/jobs/${job.id}/sign-off`}>
          <Trans>Sign off and hand back</Trans>
        </ButtonLink>
      ) : (
        <Link className={LINK} to={`/jobs/${job.id}/sign-off`}>
          {job.handed_back_at ? say`as found and as left` : say`sign-off`}
        </Link>
      );
    default:
      return null;
  }
}

/** Replacing a spoke, taking apart, lacing: whichever this job needs. */
function Lacing({ job, current }: { job: Schemas["Job"]; current: boolean }) {
  const ways: readonly [string, string][] = [
    ["replace", say`replace spokes`],
    ["strip", say`strip`],
    ["lacing", say`lace`],
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
          <Trans>plan {i + 1}</Trans>
        </Link>
      ))}
      {sets
        .filter((s) => s.stage === "after_pass")
        .map((s) => (
          <Link key={s.id} className={LINK} to={`/jobs/${job.id}/state/${s.id}`}>
            <Trans>after, set {s.number}</Trans>
          </Link>
        ))}
      {open && (
        <ButtonLink weight="now" to={`/jobs/${job.id}/plan/${last.id}`}>
          <Trans>Work the plan</Trans>
        </ButtonLink>
      )}
      {current && !open && newest && (
        <ButtonLink weight="now" to={`/jobs/${job.id}/state/${newest.id}`}>
          <Trans>State, then plan</Trans>
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
          <Trans>
            set {set.number}, {set.by.split(" ")[0]} {timeOf(set.created_at)}
          </Trans>
        </Link>
      ))}
      {current && !job.handed_back_at && (
        <Button weight={sets.length ? "plain" : "now"} onClick={() => open.go()} disabled={open.pending}>
          {sets.length ? say`New set` : say`Take the readings`}
        </Button>
      )}
      {current && sets.length > 0 && (
        <ButtonLink weight="now" to={`/jobs/${job.id}/readings/${sets.at(-1)?.id}`}>
          <Trans>Go on reading</Trans>
        </ButtonLink>
      )}
    </>
  );
}

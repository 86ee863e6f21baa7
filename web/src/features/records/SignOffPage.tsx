import { word } from "@/ui/words";
import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { WriteState, useWrite } from "@/write/useWrite";
import { useMay } from "@/app/useMay";
import { touches } from "@/api/keys";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { answer, client, type Schemas } from "@/api/client";
import { Problem } from "@/api/problem";
import { ask } from "@/api/queries";
import { JobHead } from "@/app/JobHead";
import { Checks } from "@/features/bench/Checks";
import { Strip } from "@/strip/Strip";
import { Button, ButtonLink } from "@/ui/Button";
import { FieldFrame, TextField } from "@/ui/Field";
import { type ForceUnit, shownForce, signed } from "@/ui/forces";
import { Notice } from "@/ui/Notice";
import { dayAndTime } from "@/ui/when";
import { Requirements } from "@/app/Requirements";
import { NotYet } from "@/ui/NotYet";
import { figure } from "@/ui/number";

export default function SignOffPage() {
  const { jobId = "" } = useParams();
  const job = useQuery(ask.job(jobId));
  const comparison = useQuery(ask.comparison(jobId));
  const session = useQuery(ask.session());
  const may = useMay();
  const left = useQuery({
    ...ask.state(comparison.data?.as_left_set ?? ""),
    enabled: Boolean(comparison.data),
  });
  const found = useQuery({
    ...ask.state(comparison.data?.as_found_set ?? ""),
    enabled: Boolean(comparison.data?.as_found_set),
  });
  const requirements = useQuery(ask.requirements(jobId));
  const advice = useQuery({
    ...ask.advice(comparison.data?.as_left_set ?? ""),
    enabled: Boolean(comparison.data),
  });
  const [picked, setPicked] = useState("R1");
  if (job.data && comparison.error instanceof Problem) {
    return (
      <main className="flex-1">
        <JobHead job={job.data} title={say`Sign off`} />
        <p className="p-6 text-lg">{comparison.error.message}</p>
      </main>
    );
  }
  if (!job.data || !comparison.data || !left.data || !session.data)
    return <NotYet of={[job, comparison, left, session]} what={say`the comparison`} />;
  const unit = session.data.force_unit ?? "N";
  return (
    <main className="flex flex-1 flex-col">
      <JobHead job={job.data} title={say`As left, for ${word(comparison.data.tier)}`}>
        <ButtonLink to={`/jobs/${jobId}/state/${comparison.data.as_left_set}`}>
          <Trans>State of the wheel</Trans>
        </ButtonLink>
      </JobHead>
      <div className="grid gap-6 px-4 pt-3 lg:grid-cols-[minmax(0,1fr)_340px] xl:grid-cols-[minmax(0,1fr)_400px]">
        <div className="flex min-w-0 flex-col gap-3">
          <Checks checks={comparison.data.checks} dishMm={comparison.data.as_left.dish_mm} />
          {(advice.data?.doubts.length ?? 0) > 0 && (
            <Notice kind="caution">{advice.data?.doubts.join(" ")}</Notice>
          )}
          <FoundAndLeft comparison={comparison.data} unit={unit} />
        </div>
        <Closing
          job={job.data}
          comparison={comparison.data}
          requirements={requirements.data ?? []}
          may={may}
        />
      </div>
      <div className="px-2 pt-3">
        <Strip
          state={left.data}
          unit={unit}
          lanes={{ lateral: 130, radial: 100, tension: 180 }}
          selected={picked}
          onSelect={setPicked}
          onPoint={setPicked}
          over={[
            {
              look: "ghost",
              trace: comparison.data.traces.as_found,
              tension_n: found.data?.spokes.map((s) => s.tension_n),
            },
          ]}
        />
        <p className="px-2 text-sm text-muted">
          <Trans>Dark: as left. Thin brown: as found. Green: allowed.</Trans>
        </p>
      </div>
    </main>
  );
}

function FoundAndLeft({ comparison, unit }: { comparison: Schemas["Comparison"]; unit: ForceUnit }) {
  const { as_found: found, as_left: left } = comparison;
  const rows: [string, (f: Schemas["Figures"]) => string][] = [
    [say`lateral, mm`, (f) => figure(f.lateral_tir_mm, 2)],
    [say`radial, mm`, (f) => figure(f.radial_tir_mm, 2)],
    [say`dish, mm`, (f) => signed(f.dish_mm, 2)],
    [say`worst spoke, %`, (f) => `±${figure(f.worst_spread_percent, 0)}`],
    [say`right mean, ${unit}`, (f) => shownForce(f.right_mean_n, unit)],
    [say`left mean, ${unit}`, (f) => shownForce(f.left_mean_n, unit)],
  ];
  return (
    <div
      className="overflow-x-auto"
      tabIndex={0}
      role="region"
      aria-label={say`As found and as left, in figures`}
    >
      <table className="text-right">
        <caption className="sr-only">
          <Trans>As found and as left</Trans>
        </caption>
        <thead>
          <tr className="text-sm text-muted">
            <th scope="col" className="text-left font-normal" />
            {rows.map(([name]) => (
              <th key={name} scope="col" className="px-2 font-normal">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody className="font-figure">
          <tr className="border-t border-line">
            <th scope="row" className="text-left font-sans font-normal">
              <Trans>as found</Trans>
            </th>
            {rows.map(([name, text]) => (
              <td key={name} className="px-2">
                {found ? text(found) : say`not measured`}
              </td>
            ))}
          </tr>
          <tr className="border-t border-line font-bold">
            <th scope="row" className="text-left font-sans">
              <Trans>as left</Trans>
            </th>
            {rows.map(([name, text]) => (
              <td key={name} className="px-2">
                {text(left)}
              </td>
            ))}
          </tr>
        </tbody>
      </table>
    </div>
  );
}

interface ClosingProps {
  job: Schemas["Job"];
  comparison: Schemas["Comparison"];
  requirements: readonly Schemas["Requirement"][];
  may: (operation: string) => boolean;
}

function Closing({ job, comparison, requirements, may }: ClosingProps) {
  const [reason, setReason] = useState("");
  const [note, setNote] = useState("");
  const unsafe = requirements.find((r) => r.key === "safe" && !r.met)?.missing ?? "";
  // What the signed reason does not answer for.
  const left = requirements.filter((r) => !r.met && r.answered === "hand_back");
  const mayLetGo = left.every((r) => may(r.waived_by === "owner" ? "hand_back_unsafe" : "sign_off"));
  const signed_off = comparison.signed_off;
  const at = { params: { path: { job_id: job.id } } };
  const sign = useWrite({
    touches: touches.job(job.id),
    send: (_: void, head) =>
      answer(
        client.POST("/api/v1/jobs/{job_id}/sign-off", {
          ...at,
          ...head,
          body: { version: job.version, reason },
        }),
      ),
  });
  const back = useWrite({
    touches: touches.job(job.id),
    send: (_: void, head) =>
      answer(
        client.POST("/api/v1/jobs/{job_id}/hand-back", {
          ...at,
          ...head,
          body: { version: job.version, note },
        }),
      ),
  });
  const short = comparison.short_of.map(word).join(", ");
  const fieldError = sign.refused?.for("reason");

  if (comparison.handed_back_at) {
    return (
      <section aria-label={say`Handed back`} className="flex flex-col gap-2">
        <p className="text-xl font-bold">
          <Trans>Handed back {dayAndTime(comparison.handed_back_at)}</Trans>
        </p>
        {signed_off && <SignedLine signed={signed_off} />}
      </section>
    );
  }
  return (
    <section aria-label={say`Sign off and hand back`} className="flex flex-col gap-3">
      {unsafe && (
        <Notice kind="caution">
          <Trans>
            Judged unsafe; it cannot be handed back as ready. {unsafe}{" "}
            <Link className="underline" to={`/jobs/${job.id}/condition`}>
              What was found
            </Link>
            ,{" "}
            <Link className="underline" to={`/jobs/${job.id}/decide`}>
              what was decided
            </Link>
            .
          </Trans>
        </Notice>
      )}
      {!comparison.roadworthy && (
        <Notice kind="caution">
          <Trans>
            The rim runs out by more than {figure(comparison.roadworthy_limit_mm)} mm: this wheel may not be
            called roadworthy (ISO 4210-2, from memory). Say so to the customer.
          </Trans>
        </Notice>
      )}
      {signed_off ? (
        <SignedLine signed={signed_off} />
      ) : comparison.needs_reason ? (
        <FieldFrame
          label={
            short
              ? say`Falls short in ${short}. Why does it leave like this?`
              : say`Why does it leave like this?`
          }
          error={fieldError}
          help={say`The customer reads this.`}
        >
          {(ids) => (
            <textarea
              {...ids}
              rows={2}
              value={reason}
              onChange={(e) => setReason(e.target.value)}
              className="rounded-sm border border-line-strong bg-plate p-2"
            />
          )}
        </FieldFrame>
      ) : (
        <p className="text-lg font-bold">
          <Trans>Everything agreed is met.</Trans>
        </p>
      )}
      <Requirements of={requirements} />
      <WriteState of={sign} fields={["reason"]} />
      <WriteState of={back} fields={["note"]} />
      {signed_off && left.length > 0 && mayLetGo && (
        <TextField
          label={unsafe ? say`Owner: why it leaves unsafe` : say`Why it leaves all the same`}
          value={note}
          onChange={setNote}
          error={back.refused?.for("note")}
        />
      )}
      {signed_off ? (
        <Button
          weight={left.length > 0 ? "danger" : "now"}
          onClick={() => back.go()}
          disabled={back.pending || !may("hand_back")}
        >
          {unsafe
            ? say`Hand it back, not to be ridden`
            : left.length > 0
              ? say`Hand it back all the same`
              : say`Hand the wheel back`}
        </Button>
      ) : (
        <Button weight="now" onClick={() => sign.go()} disabled={sign.pending || !may("sign_off")}>
          <Trans>Sign off</Trans>
        </Button>
      )}
      {!signed_off && !may("sign_off") && (
        <p className="text-sm text-muted">
          <Trans>A mechanic or the owner signs off.</Trans>
        </p>
      )}
    </section>
  );
}

function SignedLine({ signed: s }: { signed: Schemas["SignOff"] }) {
  return (
    <div className="flex flex-col gap-1">
      <p>
        <Trans>
          <strong>✓ Signed off</strong> by {s.by}, {dayAndTime(s.created_at)}, for {s.tier}
          {s.short_of.length > 0 && say`; short in ${s.short_of.map(word).join(", ")}`}
          {!s.roadworthy && say`; not roadworthy`}.
        </Trans>
      </p>
      {s.reason && <p className="border-l-2 border-line-strong pl-3">“{s.reason}”</p>}
    </div>
  );
}

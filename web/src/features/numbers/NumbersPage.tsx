import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { queryOptions, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { BOX, FieldFrame } from "@/ui/Field";
import { NotYet } from "@/ui/NotYet";
import { dayOf } from "@/ui/when";
import { word } from "@/ui/words";
import { WeeksDrawing } from "./WeeksDrawing";
import { figure } from "@/ui/number";

const DAYS = 90;

const askNumbers = (since: string, until: string) =>
  queryOptions({
    queryKey: ["rail", "numbers", since, until],
    queryFn: () => answer(client.GET("/api/v1/numbers", { params: { query: { since, until } } })),
    placeholderData: (old) => old,
  });

const percent = (share: number | null) => (share === null ? "–" : `${Math.round(share * 100)} %`);

/** How the shop did: promises kept, how long wheels take, what came back, where the hours go. */
export default function NumbersPage() {
  const [until, setUntil] = useState(() => dayOf(new Date()));
  const [since, setSince] = useState(() => dayOf(new Date(Date.now() - DAYS * 86_400_000)));
  const numbers = useQuery(askNumbers(since, until));
  const query = new URLSearchParams({ since, until }).toString();
  return (
    <main className="mx-auto flex w-full max-w-6xl flex-col gap-4 p-4">
      <div className="flex flex-wrap items-end gap-4">
        <h1 className="grow">
          <Trans>How the shop did</Trans>
        </h1>
        <Day label={say`From`} value={since} onChange={setSince} max={until} />
        <Day label={say`Until`} value={until} onChange={setUntil} min={since} />
        <a className="min-h-11 py-3 underline underline-offset-4" href={`/api/v1/numbers.csv?${query}`}>
          <Trans>These figures as CSV</Trans>
        </a>
        <a className="min-h-11 py-3 underline underline-offset-4" href={`/api/v1/money/lines.csv?${query}`}>
          <Trans>Lines for the books as CSV</Trans>
        </a>
      </div>
      {numbers.data ? <Figures numbers={numbers.data} /> : <NotYet of={[numbers]} what={say`the figures`} />}
    </main>
  );
}

interface DayProps {
  label: string;
  value: string;
  onChange: (day: string) => void;
  min?: string;
  max?: string;
}

function Day({ label, value, onChange, min, max }: DayProps) {
  return (
    <FieldFrame label={label} className="w-44">
      {(ids) => (
        <input
          type="date"
          className={BOX}
          value={value}
          min={min}
          max={max}
          onChange={(event) => event.target.value && onChange(event.target.value)}
          {...ids}
        />
      )}
    </FieldFrame>
  );
}

function Figures({ numbers }: { numbers: Schemas["Numbers"] }) {
  const { kept, comebacks, first_pass: first } = numbers;
  if (numbers.weeks.length === 0 && numbers.hours.length === 0)
    return (
      <p className="py-4 text-lg">
        <Trans>No wheel was made ready in these days. What is finished is counted here.</Trans>
      </p>
    );
  return (
    <>
      <dl className="grid grid-cols-2 gap-3 lg:grid-cols-4">
        <Big name={say`Promises kept`} figure={percent(kept.share)} of={kept}>
          {numbers.stated !== null && say`Said when they were given: ${percent(numbers.stated)}.`}
        </Big>
        <Big
          name={say`Taking in to ready`}
          figure={numbers.lead_days === null ? "–" : say`${figure(numbers.lead_days, 1)} days`}
        >
          {numbers.lead_days_most !== null &&
            say`Nine of ten within ${figure(numbers.lead_days_most, 1)} days.`}
        </Big>
        <Big name={say`Came back within 90 days`} figure={percent(comebacks.share)} of={comebacks}>
          {numbers.comeback_causes.map((c) => `${c.name} ${c.count}`).join(" · ")}
        </Big>
        <Big name={say`One plan was enough`} figure={percent(first.share)} of={first}>
          {say`Inside the tier after the first.`}
        </Big>
      </dl>
      <WeeksDrawing weeks={numbers.weeks} />
      <div className="grid grid-cols-1 gap-6 lg:grid-cols-2">
        <Stages stages={numbers.stages} />
        <Hours hours={numbers.hours} />
      </div>
    </>
  );
}

interface BigProps {
  name: string;
  figure: string;
  of?: Schemas["ShareOf"];
  children?: React.ReactNode;
}

function Big({ name, figure, of, children }: BigProps) {
  return (
    <div className="rounded-md border border-line bg-plate p-3">
      <dt>{name}</dt>
      <dd className="font-figure text-3xl font-bold">{figure}</dd>
      <dd className="text-sm text-muted">
        {of && of.of > 0 && (
          <Trans>
            {of.hits} of {of.of}, likely {percent(of.low)} to {percent(of.high)}.
          </Trans>
        )}{" "}
        {children}
      </dd>
    </div>
  );
}

/** Taken over estimated, on a scale from half to double: on the line in the middle the estimate was right. */
function Stages({ stages }: { stages: readonly Schemas["StagePace"][] }) {
  const place = (ratio: number) => 50 + 50 * Math.max(-1, Math.min(1, Math.log2(ratio)));
  return (
    <section aria-label={say`Estimated and taken`}>
      <h2 className="text-lg font-bold">
        <Trans>Estimated and taken</Trans>
      </h2>
      <table className="w-full text-left">
        <thead>
          <tr className="text-sm text-muted">
            <th scope="col" className="font-normal">
              <Trans>Stage</Trans>
            </th>
            <th scope="col" className="text-right font-normal">
              <Trans>Hours</Trans>
            </th>
            <th scope="col" className="pl-4 font-normal">
              <Trans>half as long … twice as long</Trans>
            </th>
            <th scope="col" className="text-right font-normal">
              <Trans>Taken</Trans>
            </th>
          </tr>
        </thead>
        <tbody>
          {stages.map((s) => (
            <tr key={s.stage} className="border-t border-line">
              <th scope="row" className="py-1 font-normal">
                {s.name}
              </th>
              <td className="text-right font-figure">{figure(s.hours, 1)}</td>
              <td className="w-48 pl-4">
                {s.ratio !== null && (
                  <svg
                    viewBox="0 0 100 12"
                    className="h-3 w-full"
                    aria-hidden="true"
                    preserveAspectRatio="none"
                  >
                    <line x1={0} x2={100} y1={6} y2={6} className="stroke-line-strong" strokeWidth={1} />
                    <line x1={50} x2={50} y1={0} y2={12} className="stroke-ink" strokeWidth={0.6} />
                    <rect x={place(s.ratio) - 1.5} y={2} width={3} height={8} className="fill-ink" />
                  </svg>
                )}
              </td>
              <td className="text-right font-figure">{s.ratio === null ? "–" : `${figure(s.ratio, 2)} ×`}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function Hours({ hours }: { hours: readonly Schemas["HoursOf"][] }) {
  const most = Math.max(...hours.map((h) => h.hours), 0.1);
  return (
    <section aria-label={say`Hours by kind and tier`}>
      <h2 className="text-lg font-bold">
        <Trans>Hours by kind and tier</Trans>
      </h2>
      <table className="w-full text-left">
        <thead>
          <tr className="text-sm text-muted">
            <th scope="col" className="font-normal">
              <Trans>Wheel</Trans>
            </th>
            <th scope="col" className="font-normal">
              <Trans>Tier</Trans>
            </th>
            <th scope="col" className="text-right font-normal">
              <Trans>Wheels</Trans>
            </th>
            <th scope="col" className="pl-4 text-right font-normal">
              <Trans>Hours</Trans>
            </th>
          </tr>
        </thead>
        <tbody>
          {hours.map((h) => (
            <tr key={`${h.position} ${h.use} ${h.tier}`} className="border-t border-line">
              <th scope="row" className="py-1 font-normal">
                {word(h.position)}, {word(h.use)}
              </th>
              <td>{word(h.tier)}</td>
              <td className="text-right font-figure">{h.jobs}</td>
              <td className="w-48 pl-4 text-right font-figure">
                <span className="flex items-center justify-end gap-2">
                  <span
                    aria-hidden
                    className="h-3 rounded-sm bg-band"
                    style={{ width: `${(100 * h.hours) / most}px` }}
                  />
                  {figure(h.hours, 1)}
                </span>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

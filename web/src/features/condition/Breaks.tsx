import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import type { Schemas } from "@/api/client";
import { Problem, sentenceOf } from "@/api/problem";
import { Button } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { TextField } from "@/ui/Field";
import { Notice } from "@/ui/Notice";
import { useCondition } from "./useRepair";

interface BreaksProps {
  jobId: string;
  found: Schemas["Condition"];
  spoke: string;
  onSpoke: (spoke: string) => void;
  closed: boolean;
}

const ADVICE: Record<Schemas["Pattern"]["advice"], string> = {
  one_spoke: say`Replace this one spoke`,
  side: say`Rebuild the side`,
  wheel: say`Rebuild the wheel with new spokes`,
  new_rim: say`New rim`,
};
/** Where on the spoke, as shares of its drawn length from hub to rim. */
const AT: Record<string, number> = { elbow: 0.03, middle: 0.48, thread: 0.86, nipple_head: 0.93, rim: 1 };

/** Every break of this wheel's life, and what they say together. */
export function Breaks({ jobId, found, spoke, onSpoke, closed }: BreaksProps) {
  const { broke, endBreak } = useCondition(jobId);
  const [place, setPlace] = useState("elbow");
  const [on, setOn] = useState("");
  const problem = broke.error instanceof Problem ? broke.error : null;
  const pattern = found.pattern;
  return (
    <div className="flex flex-col gap-4">
      {!closed && (
        <form
          aria-label={say`Note a break`}
          className="flex flex-col gap-3 rounded-md border border-line bg-plate p-4"
          onSubmit={(event) => {
            event.preventDefault();
            broke.go({
              spoke,
              place: place as Schemas["NewBreakRequest"]["place"],
              noticed_on: on || null,
            });
          }}
        >
          <BreakDrawing place={place} />
          <Choice
            label={say`Where it broke`}
            value={place}
            onChange={setPlace}
            small
            options={found.places.map((p) => ({ value: p.key, text: p.name }))}
            className="flex-wrap"
          />
          <div className="flex items-start gap-3">
            <TextField
              label={say`Spoke`}
              value={spoke}
              onChange={(text) => onSpoke(text.toUpperCase())}
              error={problem?.for("spoke")}
              className="w-24"
            />
            <TextField
              label={say`Noticed on`}
              type="date"
              value={on}
              onChange={setOn}
              error={problem?.for("noticed_on")}
              help={say`Left empty: today`}
              className="w-44"
            />
            <Button type="submit" weight="now" disabled={broke.pending} className="mt-6">
              <Trans>Record the break</Trans>
            </Button>
          </div>
          {broke.error && !problem?.for("spoke") && !problem?.for("noticed_on") && (
            <Notice kind="refusal">{sentenceOf(broke.error)}</Notice>
          )}
        </form>
      )}
      {pattern && (
        <section aria-label={say`What the breaks say`} className="flex flex-col gap-2">
          <p className="text-xl font-bold">
            {pattern.advice === "side"
              ? say`Rebuild the ${pattern.side === "R" ? say`right` : say`left`} side`
              : ADVICE[pattern.advice]}
          </p>
          {pattern.reasons.map((r) => (
            <p key={r}>{r}</p>
          ))}
          <table className="text-left">
            <caption className="text-left text-sm text-muted">
              <Trans>First suspects</Trans>
            </caption>
            <tbody>
              {pattern.suspects.map((s) => (
                <tr key={s.key} className="border-t border-line align-top">
                  <th scope="row" className="w-64 py-1 pr-3 font-bold">
                    {s.name}
                  </th>
                  <td className="w-28 py-1">
                    <svg
                      viewBox="0 0 100 10"
                      preserveAspectRatio="none"
                      className="mt-2 h-2 w-24"
                      aria-hidden="true"
                    >
                      <rect width={100} height={10} className="fill-sunk" />
                      <rect width={s.share * 100} height={10} className="fill-ink" />
                    </svg>
                  </td>
                  <td className="py-1 text-sm text-muted">{s.why}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      )}
      {found.breaks.length === 0 ? (
        <p className="text-muted">
          <Trans>No break on record since its last rebuild.</Trans>
        </p>
      ) : (
        <ol aria-label={say`Breaks on record`}>
          {found.breaks.map((b) => (
            <li key={b.id} className="flex items-center gap-3 border-t border-line py-1">
              <span className="flex-1">
                <Trans>
                  <strong>{b.spoke}</strong> {b.place_name}, noticed {b.noticed_on}{" "}
                  <span className="text-muted">job {b.job_number}</span>
                </Trans>
              </span>
              {!closed && (
                <Button
                  weight="quiet"
                  className="text-sm"
                  onClick={() => endBreak.go({ id: b.id, note: say`entered by mistake` })}
                >
                  <Trans>
                    a mistake<span className="sr-only">: break of {b.spoke}</span>
                  </Trans>
                </Button>
              )}
            </li>
          ))}
        </ol>
      )}
    </div>
  );
}

/** One spoke from hub to rim, with a gap where it gave way. */
function BreakDrawing({ place }: { place: string }) {
  const at = 24 + (AT[place] ?? 0.5) * 440;
  return (
    <svg
      viewBox="0 0 520 60"
      className="h-14 w-full max-w-xl"
      role="img"
      aria-label={say`A spoke from the hub's flange, left, to the rim, right`}
    >
      <rect x={8} y={6} width={12} height={48} rx={3} className="fill-line-strong" />
      <path d="M24 22v8H430" fill="none" className="stroke-ink" strokeWidth={5} />
      <rect x={418} y={24} width={48} height={12} className="fill-plate stroke-ink" strokeWidth={2} />
      <rect x={464} y={20} width={10} height={20} className="fill-ink" />
      <path d="M474 4v52M488 4v52" className="stroke-line-strong" strokeWidth={6} />
      <path
        d={`M${at - 7} 12l10 10l-8 8l10 10l-6 10`}
        fill="none"
        className="stroke-danger"
        strokeWidth={4}
      />
    </svg>
  );
}

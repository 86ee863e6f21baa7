import { word } from "@/ui/words";
import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { claimed } from "./claims";
import type { Schemas } from "@/api/client";
import { figure } from "@/ui/number";

/** The figures of the tier as they are now, and as they are likely to be after all that is left. */
export function LiveFigures({ step }: { step: Schemas["LiveStep"] }) {
  const { chance, chance_after, unread, by_eye } = step;
  return (
    <div className="flex flex-col gap-2">
      <table className="w-full">
        <caption className="sr-only">
          <Trans>Figures now and after what is left</Trans>
        </caption>
        <thead>
          <tr className="text-left text-sm text-muted">
            <th scope="col" className="font-normal">
              <Trans>Figure</Trans>
            </th>
            <th scope="col" className="font-normal">
              <Trans>now</Trans>
            </th>
            <th scope="col" className="font-normal">
              {step.next ? <Trans>then</Trans> : null}
            </th>
            <th scope="col" className="font-normal">
              <Trans>at most</Trans>
            </th>
          </tr>
        </thead>
        <tbody>
          {step.state.checks.map((check) => (
            <tr key={check.figure} className="border-t border-line align-baseline">
              <th scope="row" className="py-1 text-left font-bold">
                {word(check.figure)}
              </th>
              {check.measured ? (
                <>
                  <td className={`font-figure text-2xl font-bold ${check.met ? "" : "text-danger"}`}>
                    {shown(check.figure, check.value)}
                    <span className="text-base"> {check.met ? "✓" : "✕"}</span>
                  </td>
                  <td className="font-figure text-lg">
                    {step.next ? shown(check.figure, step.after[check.figure]) : ""}
                  </td>
                </>
              ) : (
                <td colSpan={2} className="text-muted">
                  <Trans>not read</Trans>
                </td>
              )}
              <td className="font-figure text-muted">{limit(check)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="text-sm">
        {chance === null
          ? say`Told by eye: no chance is stated.`
          : step.next && chance_after !== null
            ? say`Chance to be inside: ${percent(chance)} now, ${percent(chance_after)} after what is left.`
            : say`Chance to be inside: ${percent(chance)}.`}{" "}
        {unread.length > 0 && by_eye.length === 0 && say`It is about ${claimed(step)} alone.`}
      </p>
      {step.last_look && (
        <p className="text-sm text-muted">
          <Trans>Last look: {step.last_look}</Trans>
        </p>
      )}
    </div>
  );
}

const percent = (share: number) => `${Math.round(share * 100)} %`;

const shown = (of: Schemas["Check"]["figure"], value: number) =>
  of === "tension" ? `±${figure(value, 0)} %` : figure(value, 2);

const limit = (check: Schemas["Check"]) =>
  check.figure === "tension" ? `±${figure(check.limit)} %` : `${figure(check.limit)} mm`;

import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "@/api/client";
import { WordHelp } from "@/help/WordHelp";
import { signed } from "@/ui/forces";
import { figure } from "@/ui/number";

const NAMES = { lateral: say`Lateral`, radial: say`Radial`, dish: say`Dish`, tension: say`Tension` } as const;

/** Figures against the tier: a scale with the limit marked, and whether each is met, in words and shape. */
export function Checks({ checks, dishMm }: { checks: readonly Schemas["Check"][]; dishMm?: number }) {
  return (
    <ul className="grid grid-cols-2 gap-3 md:grid-cols-4">
      {checks.map((check) => (
        <li key={check.figure} className="border-t-2 border-line-strong pt-1">
          <p className="flex items-baseline justify-between text-sm">
            <WordHelp of={check.figure === "tension" ? "spread" : check.figure} className="font-bold">
              {NAMES[check.figure]}
            </WordHelp>
            <span className={check.met ? "text-muted" : "font-bold text-danger"}>
              {check.met ? say`✓ inside` : say`✕ outside`}
              {!check.measured && say`, estimated`}
            </span>
          </p>
          <p className="font-figure text-3xl font-bold">
            {valueText(check, dishMm)}
            <span className="ml-1 font-sans text-base font-normal text-muted">{check.unit}</span>
          </p>
          <Scale value={check.value} limit={check.limit} met={check.met} />
          <p className="text-sm text-muted">
            <Trans>
              at most {check.figure === "tension" ? "±" : ""}
              {figure(check.limit)} {check.unit}
            </Trans>
          </p>
        </li>
      ))}
    </ul>
  );
}

function valueText(check: Schemas["Check"], dishMm: number | undefined): string {
  if (check.figure === "tension") return `±${figure(check.value, 0)}`;
  if (check.figure === "dish" && dishMm !== undefined) return signed(dishMm, 2);
  return figure(check.value, 2);
}

function Scale({ value, limit, met }: { value: number; limit: number; met: boolean }) {
  const end = Math.max(limit * 2, value);
  const at = (v: number) => (v / end) * 100;
  return (
    <svg viewBox="0 0 100 8" preserveAspectRatio="none" className="my-1 h-2 w-full" aria-hidden="true">
      <rect x={0} y={0} width={at(limit)} height={8} className="fill-tube" />
      <rect x={0} y={2.5} width={at(value)} height={3} className={met ? "fill-ink" : "fill-danger"} />
      <rect x={at(limit) - 0.4} y={0} width={0.8} height={8} className="fill-ink" />
    </svg>
  );
}

import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "@/api/client";
import { minutesText, money } from "@/ui/money";
import { within } from "@/ui/words";

interface OptionsProps {
  options: readonly Schemas["RepairOption"][];
  currency: string;
  chosen: readonly string[];
  onChoose: ((keys: string[]) => void) | undefined;
}

/** Every way side by side: what it takes, costs and reaches, and how sure that is. Any of them may be chosen together. */
export function Options({ options, currency, chosen, onChoose }: OptionsProps) {
  const toggle = (key: string) => {
    if (key === "leave") return onChoose?.(chosen.includes("leave") ? [] : ["leave"]);
    const rest = chosen.filter((k) => k !== "leave");
    onChoose?.(rest.includes(key) ? rest.filter((k) => k !== key) : [...rest, key]);
  };
  return (
    <div className="overflow-x-auto" role="region" aria-label={say`The options side by side`} tabIndex={0}>
      <table className="w-full text-left">
        <thead>
          <tr className="text-sm text-muted max-sm:sr-only">
            <th scope="col" className="w-12 pr-3 font-normal">
              <Trans>Take</Trans>
            </th>
            <th scope="col" className="font-normal">
              <Trans>What</Trans>
            </th>
            <th scope="col" className="w-24 text-right font-normal">
              <Trans>Time</Trans>
            </th>
            <th scope="col" className="w-28 text-right font-normal">
              <Trans>Price</Trans>
            </th>
            <th scope="col" className="w-64 pl-4 font-normal">
              <Trans>Result</Trans>
            </th>
            <th scope="col" className="w-32 font-normal">
              <Trans>How sure</Trans>
            </th>
          </tr>
        </thead>
        <tbody>
          {options.map((o) => (
            <tr
              key={o.key}
              className="border-t border-line align-top max-sm:grid max-sm:grid-cols-[3rem_1fr_auto] max-sm:gap-x-2 max-sm:pb-2"
            >
              <td className="max-sm:row-span-4">
                <label className="flex size-12 items-center justify-center">
                  <input
                    type="checkbox"
                    aria-label={o.name}
                    checked={chosen.includes(o.key)}
                    disabled={!onChoose}
                    onChange={() => toggle(o.key)}
                    className="size-7 accent-ink"
                  />
                </label>
              </td>
              <td className="py-1 pr-4 max-sm:col-span-2">
                <span className={o.proposed ? "text-lg font-bold" : "text-lg"}>{o.name}</span>
                {o.proposed && (
                  <span className="ml-2 rounded-sm bg-sunk px-2 text-sm">
                    <Trans>proposed</Trans>
                  </span>
                )}
                <span className="block text-sm text-muted">
                  {o.barred ? (
                    <strong className="text-danger">
                      <Trans>Barred: {o.barred} </Trans>
                    </strong>
                  ) : null}
                  {o.why !== o.barred && o.why}
                  {o.parts.length > 0 &&
                    ` ${o.parts.map((p) => `${p.count} × ${within(p.name)}`).join(", ")}.`}
                </span>
              </td>
              <td className="py-1 text-right font-figure whitespace-nowrap max-sm:text-left">
                {o.minutes ? minutesText(o.minutes) : "–"}
              </td>
              <td className="py-1 text-right font-figure whitespace-nowrap">
                {money(o.price_minor, currency)}
              </td>
              <td className="py-1 pl-4 max-sm:col-span-2 max-sm:pl-0">{o.result}</td>
              <td className="py-1 max-sm:col-span-2" title={o.chance_why}>
                {o.chance === null ? (
                  <span className="text-sm text-muted">{o.key === "leave" ? "" : say`not known`}</span>
                ) : (
                  <>
                    <span className="font-figure">{Math.round(o.chance * 100)} %</span>
                    <svg
                      viewBox="0 0 100 8"
                      preserveAspectRatio="none"
                      className="h-2 w-24"
                      aria-hidden="true"
                    >
                      <rect width={100} height={8} className="fill-sunk" />
                      <rect width={o.chance * 100} height={8} className="fill-ink" />
                    </svg>
                  </>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

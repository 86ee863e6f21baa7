import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "@/api/client";
import { WheelDrawing } from "@/wheelmap/WheelDrawing";
import { figure } from "@/ui/number";

/** What follows from the dimensions, and the wheel that they make. */
export function Derived({ derived, doubtful }: { derived: Schemas["Derived"]; doubtful: boolean }) {
  const { R, L } = derived.sides;
  const rows: [string, string, string][] = [
    [say`spoke length, mm`, figure(R.spoke_length_mm, 1), figure(L.spoke_length_mm, 1)],
    [say`known to ±, mm`, figure(R.length_sd_mm, 1), figure(L.length_sd_mm, 1)],
    [say`lean at the flange, mm`, figure(R.bracing_mm, 1), figure(L.bracing_mm, 1)],
    [say`target tension, N`, figure(R.target_n, 0), figure(L.target_n, 0)],
    [say`stretch at target, mm`, figure(R.stretch_mm, 2), figure(L.stretch_mm, 2)],
    [say`meter table`, R.spoke_kind, L.spoke_kind],
  ];
  return (
    <div className={doubtful ? "opacity-50" : ""}>
      <WheelDrawing derived={derived} selected="" hanging={false} className="mx-auto size-60" />
      <table className="w-full text-right text-sm">
        <caption className="text-left text-base font-bold">
          <Trans>What follows</Trans>
        </caption>
        <thead>
          <tr className="text-muted">
            <th scope="col" />
            <th scope="col" className="font-normal">
              <Trans>○ left</Trans>
            </th>
            <th scope="col" className="font-normal">
              <Trans>● right</Trans>
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map(([name, right, left]) => (
            <tr key={name} className="border-t border-line">
              <th scope="row" className="py-0.5 text-left font-normal text-muted">
                {name}
              </th>
              <td className="font-figure">{left}</td>
              <td className="font-figure font-bold">{right}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="mt-1 text-sm">
        <Trans>
          Left over right by statics:{" "}
          <span className="font-figure font-bold">{figure(derived.left_over_right, 2)}</span>.{" "}
          {derived.tension_is_default && (
            <span className="text-muted">
              <Trans>Target or limit is Felloe&rsquo;s default, not the rim maker&rsquo;s.</Trans>
            </span>
          )}
        </Trans>
      </p>
    </div>
  );
}

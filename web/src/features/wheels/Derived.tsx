import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "@/api/client";
import { WheelDrawing } from "@/wheelmap/WheelDrawing";

/** What follows from the dimensions, and the wheel that they make. */
export function Derived({ derived, doubtful }: { derived: Schemas["Derived"]; doubtful: boolean }) {
  const { R, L } = derived.sides;
  const rows: [string, string, string][] = [
    [say`spoke length, mm`, R.spoke_length_mm.toFixed(1), L.spoke_length_mm.toFixed(1)],
    [say`known to ±, mm`, R.length_sd_mm.toFixed(1), L.length_sd_mm.toFixed(1)],
    [say`lean at the flange, mm`, R.bracing_mm.toFixed(1), L.bracing_mm.toFixed(1)],
    [say`target tension, N`, R.target_n.toFixed(0), L.target_n.toFixed(0)],
    [say`stretch at target, mm`, R.stretch_mm.toFixed(2), L.stretch_mm.toFixed(2)],
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
          <span className="font-figure font-bold">{derived.left_over_right.toFixed(2)}</span>.{" "}
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

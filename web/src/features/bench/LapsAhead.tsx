import { Trans } from "@lingui/react/macro";
import { IfFailed } from "@/ui/NotYet";
import { useQuery } from "@tanstack/react-query";
import { ask } from "@/api/queries";
import { type ForceUnit, shownForce, signed } from "@/ui/forces";

/** The laps of a wheel under construction: turns of every nipple of a side, the means after, and what to look to. */
export function LapsAhead({ setId, unit }: { setId: string; unit: ForceUnit }) {
  const laps = useQuery(ask.laps(setId));
  if (!laps.data) return <IfFailed of={laps} />;
  if (laps.data.length === 0)
    return (
      <p>
        <Trans>The tight side has its tension: plan with all at once, not from slack.</Trans>
      </p>
    );
  return (
    <table className="w-full text-sm">
      <caption className="pb-1 text-left text-muted">
        <Trans>
          Laps ahead, every nipple of a side alike; the plan names the few that need more or less. About{" "}
          {Math.round(laps.data.reduce((sum, lap) => sum + lap.minutes, 0))} min to its tension.
        </Trans>
      </caption>
      <thead>
        <tr className="border-b border-line-strong text-left">
          <th className="pr-3">
            <Trans>Lap</Trans>
          </th>
          <th className="pr-3">
            <Trans>● Right, turns</Trans>
          </th>
          <th className="pr-3">
            <Trans>○ Left, turns</Trans>
          </th>
          <th className="pr-3">
            <Trans>Means after, {unit}</Trans>
          </th>
          <th className="pr-3">
            <Trans>Minutes</Trans>
          </th>
          <th>
            <Trans>Look to</Trans>
          </th>
        </tr>
      </thead>
      <tbody>
        {laps.data.map((lap) => (
          <tr key={lap.number} className="border-b border-line align-top">
            <td className="pr-3 font-figure">{Math.round(lap.share * 100)} %</td>
            <td className="pr-3 font-figure">{signed(lap.right_turns, 2)}</td>
            <td className="pr-3 font-figure">{signed(lap.left_turns, 2)}</td>
            <td className="pr-3 font-figure">
              {shownForce(lap.right_mean_n, unit)} / {shownForce(lap.left_mean_n, unit)}
            </td>
            <td className="pr-3 font-figure">{Math.round(lap.minutes)}</td>
            <td>{lap.care}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

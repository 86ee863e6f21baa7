import { IfFailed } from "@/ui/NotYet";
import { useQuery } from "@tanstack/react-query";
import { ask } from "@/api/queries";
import { type ForceUnit, shownForce, signed } from "@/ui/forces";

/** The laps of a wheel under construction: turns of every nipple of a side, the means after, and what to look to. */
export function LapsAhead({ setId, unit }: { setId: string; unit: ForceUnit }) {
  const laps = useQuery(ask.laps(setId));
  if (!laps.data) return <IfFailed of={laps} />;
  if (laps.data.length === 0)
    return <p>The tight side has its tension: plan with all at once, not from slack.</p>;
  return (
    <table className="w-full text-sm">
      <caption className="pb-1 text-left text-muted">
        Laps ahead, every nipple alike; the plan below adds what each one needs more or less.
      </caption>
      <thead>
        <tr className="border-b border-line-strong text-left">
          <th className="pr-3">Lap</th>
          <th className="pr-3">● Right, turns</th>
          <th className="pr-3">○ Left, turns</th>
          <th className="pr-3">Means after, {unit}</th>
          <th>Look to</th>
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
            <td>{lap.care}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

import { crossingsWord } from "@/ui/words";
import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { Dialog } from "@/ui/Dialog";
import type { Sizing } from "./useSizing";
import { sideName } from "./words";
import { figure } from "@/ui/number";

/** Every crossing that the sides can be laced at: length, how squarely it pulls round the hub, room beside the next head. */
export function CrossingsDialog({ sizing, onClose }: { sizing: Sizing; onClose: () => void }) {
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={say`How it could be crossed`}
      lead={say`Changed on the parts of the wheel.`}
    >
      {sizing.sides.map((side) => (
        <table key={side.side} className="mb-4 w-full text-sm">
          <caption className="text-left text-base font-bold">{sideName(side.side)}</caption>
          <thead>
            <tr className="text-left text-muted">
              <th scope="col" className="font-normal">
                <Trans>crossing</Trans>
              </th>
              <th scope="col" className="font-normal">
                <Trans>length, mm</Trans>
              </th>
              <th scope="col" className="font-normal">
                <Trans>pull round the hub</Trans>
              </th>
              <th scope="col" className="font-normal">
                <Trans>bend at the nipple</Trans>
              </th>
              <th scope="col" className="font-normal">
                <Trans>room, mm</Trans>
              </th>
              <th scope="col" className="font-normal">
                <Trans>for what</Trans>
              </th>
            </tr>
          </thead>
          <tbody>
            {side.table.map((row) => (
              <tr
                key={row.crossings}
                className={`border-t border-line align-top ${row.possible ? "" : "text-muted"}`}
              >
                <th
                  scope="row"
                  className={row.crossings === side.crossings ? "text-left" : "text-left font-normal"}
                >
                  {crossingsWord(row.crossings)}
                  {row.crossings === side.crossings && " ◀"}
                </th>
                <td className="font-figure">{figure(row.length_mm, 1) ?? "–"}</td>
                <td className="font-figure">{row.possible ? `${Math.round(row.pull * 100)} %` : "–"}</td>
                <td className="font-figure">{row.bend_deg === null ? "–" : `${figure(row.bend_deg, 0)}°`}</td>
                <td className="font-figure">{figure(row.room_mm, 1) ?? "–"}</td>
                <td>{row.why}</td>
              </tr>
            ))}
          </tbody>
        </table>
      ))}
    </Dialog>
  );
}

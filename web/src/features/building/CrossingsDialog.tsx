import { Dialog } from "@/ui/Dialog";
import type { Sizing } from "./useSizing";
import { sideName } from "./words";

/** Every crossing that the sides can be laced at: length, how squarely it pulls round the hub, room beside the next head. */
export function CrossingsDialog({ sizing, onClose }: { sizing: Sizing; onClose: () => void }) {
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title="How it could be crossed"
      lead="Changed on the parts of the wheel."
    >
      {sizing.sides.map((side) => (
        <table key={side.side} className="mb-4 w-full text-sm">
          <caption className="text-left text-base font-bold">{sideName(side.side)}</caption>
          <thead>
            <tr className="text-left text-muted">
              <th scope="col" className="font-normal">
                crossing
              </th>
              <th scope="col" className="font-normal">
                length, mm
              </th>
              <th scope="col" className="font-normal">
                pull round the hub
              </th>
              <th scope="col" className="font-normal">
                room, mm
              </th>
              <th scope="col" className="font-normal">
                for what
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
                  {row.crossings ? `${row.crossings}-cross` : "radial"}
                  {row.crossings === side.crossings && " ◀"}
                </th>
                <td className="font-figure">{row.length_mm?.toFixed(1) ?? "–"}</td>
                <td className="font-figure">{row.possible ? `${Math.round(row.pull * 100)} %` : "–"}</td>
                <td className="font-figure">{row.room_mm?.toFixed(1) ?? "–"}</td>
                <td>{row.why}</td>
              </tr>
            ))}
          </tbody>
        </table>
      ))}
    </Dialog>
  );
}

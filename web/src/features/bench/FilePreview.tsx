import { Drawing } from "@/ui/Drawing";
import { word } from "@/ui/words";
import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "@/api/client";
import { figure } from "@/ui/number";

const W = 590;
const LANE = 76;
const LEFT = 62;
const KINDS = ["lateral", "radial", "tension"] as const;

/** What a file would bring, on the rim laid flat: filled marks are sound, hollow ones doubtful; below, what is wrong. */
export function FilePreview({ look, derived }: { look: Schemas["CsvLook"]; derived: Schemas["Derived"] }) {
  const angleOf = new Map(derived.spokes.map((s) => [s.name, s.angle_deg]));
  const lanes = KINDS.filter((kind) => look.rows.some((r) => r.kind === kind));
  const told = look.rows
    .filter((r) => r.wrong || r.doubt)
    .sort((a, b) => Number(Boolean(b.wrong)) - Number(Boolean(a.wrong)));
  return (
    <div className="flex flex-col gap-2">
      <Drawing
        box={[0, 0, W, lanes.length * LANE + 16]}
        className="w-full"
        role="img"
        aria-label={say`What would come in: ${look.rows.length} values, ${told.length} of them wrong or doubtful`}
      >
        {lanes.map((kind, lane) => {
          const rows = look.rows.filter((r) => r.kind === kind && r.value !== null);
          const values = rows.map((r) => r.value ?? 0);
          const [low, high] = [Math.min(0, ...values), Math.max(kind === "tension" ? 1 : 0.01, ...values)];
          const y = (v: number) => lane * LANE + LANE - 8 - ((v - low) / (high - low || 1)) * (LANE - 18);
          return (
            <g key={kind}>
              <path d={`M${LEFT} ${lane * LANE + LANE - 4}H${W}`} className="stroke-line" />
              <text x={0} y={lane * LANE + 24} className="fill-ink text-(length:--letter) font-bold">
                {word(kind)}
              </text>
              <text x={0} y={lane * LANE + 40} className="fill-muted text-(length:--letter)">
                {kind === "tension" ? "N" : "mm"}
              </text>
              {rows.map((r) => {
                const angle = r.spoke ? angleOf.get(r.spoke) : r.angle_deg;
                if (angle === undefined || angle === null) return null;
                const x = LEFT + (angle / 360) * (W - LEFT - 6);
                return (
                  <circle
                    key={`${r.line}`}
                    cx={x}
                    cy={y(r.value ?? 0)}
                    r={r.doubt ? 5 : 3}
                    className={r.doubt ? "fill-plate stroke-danger" : "fill-ink"}
                    strokeWidth={r.doubt ? 2 : 0}
                  />
                );
              })}
            </g>
          );
        })}
        <text x={LEFT} y={lanes.length * LANE + 12} className="fill-muted text-(length:--letter)">
          <Trans>valve →</Trans>
        </text>
      </Drawing>
      {told.length > 0 && (
        <div
          className="max-h-44 overflow-y-auto"
          role="region"
          aria-label={say`Wrong or doubtful lines`}
          tabIndex={0}
        >
          <table className="w-full text-left text-sm">
            <tbody>
              {told.slice(0, 100).map((r, i) => (
                <tr key={i} className="border-t border-line">
                  <th scope="row" className="w-20 font-normal text-muted">
                    <Trans>line {r.line}</Trans>
                  </th>
                  <td className="w-32">
                    {word(r.kind)} {r.spoke || (r.angle_deg !== null ? `${figure(r.angle_deg, 0)}°` : "")}
                  </td>
                  <td className={r.wrong ? "font-bold text-danger" : ""}>
                    {r.wrong ? `✗ ${r.wrong}` : r.replaces !== null ? r.doubt : `doubtful: ${r.doubt}`}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </div>
  );
}

import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "@/api/client";
import type { Problem } from "@/api/problem";
import { Button } from "@/ui/Button";
import { dayAndTime } from "@/ui/when";
import { word } from "@/ui/words";

const NAMES: Record<string, string> = {
  complaint: say`Complaint`,
  tier: say`Tier`,
  promised_at: say`Promised`,
  assigned_to: say`Who has it`,
  waiting_on: say`Waits for`,
};

interface ConflictProps {
  problem: Problem;
  staff: readonly Schemas["Person"][];
  onKeepMine: () => void;
  onTakeTheirs: () => void;
}

/** Two people changed one job: both versions side by side, where they differ. */
export function Conflict({ problem, staff, onKeepMine, onTakeTheirs }: ConflictProps) {
  const yours = problem.yours ?? {};
  const current = problem.current ?? {};
  const show = (name: string, value: unknown): string => {
    if (value === null || value === undefined || value === "") return "none";
    const text = typeof value === "string" ? value : JSON.stringify(value);
    if (name === "promised_at") return dayAndTime(text);
    if (name === "assigned_to") return staff.find((p) => p.id === text)?.name ?? text;
    return name === "tier" ? word(text) : text;
  };
  const differing = Object.keys(NAMES).filter(
    (name) => name in yours && show(name, yours[name]) !== show(name, current[name]),
  );
  const who =
    typeof current["changed_by"] === "string" && current["changed_by"]
      ? current["changed_by"]
      : say`Somebody`;
  return (
    <div role="alert" className="flex flex-col gap-4">
      <p>
        <Trans>
          <strong>{who}</strong> changed this job while you did. Nothing is saved yet: choose.
        </Trans>
      </p>
      <table className="w-full text-left">
        <thead>
          <tr className="border-b border-line-strong">
            <th scope="col" className="py-1" />
            <th scope="col">
              <Trans>Yours</Trans>
            </th>
            <th scope="col">
              <Trans>Theirs, saved</Trans>
            </th>
          </tr>
        </thead>
        <tbody>
          {differing.map((name) => (
            <tr key={name} className="border-b border-line align-top">
              <th scope="row" className="py-1 pr-3">
                {NAMES[name]}
              </th>
              <td className="pr-3">{show(name, yours[name])}</td>
              <td>{show(name, current[name])}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="flex justify-end gap-3">
        <Button onClick={onTakeTheirs}>
          <Trans>Take theirs</Trans>
        </Button>
        <Button weight="danger" onClick={onKeepMine}>
          <Trans>Save mine over it</Trans>
        </Button>
      </div>
    </div>
  );
}

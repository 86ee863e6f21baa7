import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import type { Schemas } from "@/api/client";
import { Problem, sentenceOf } from "@/api/problem";
import { Button } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { Dialog } from "@/ui/Dialog";
import { TextField } from "@/ui/Field";
import { Notice } from "@/ui/Notice";
import { useCondition } from "./useRepair";
import { figure } from "@/ui/number";

const LEVEL: Record<Schemas["ConditionLevelEnum"], string> = {
  record: say`○ recorded`,
  watch: say`◇ watch`,
  not_to_ride: say`◆ not to be ridden`,
};

interface MarksProps {
  jobId: string;
  marks: readonly Schemas["ConditionMark"][];
  closed: boolean;
  onSelect: (spoke: string) => void;
}

/** What stands on this wheel, each with its verdict and the figures at its place. */
export function Marks({ jobId, marks, closed, onSelect }: MarksProps) {
  const [ending, setEnding] = useState<Schemas["ConditionMark"] | null>(null);
  if (marks.length === 0)
    return (
      <p className="text-muted">
        <Trans>Nothing noted yet. Look along the rim, at every spoke hole, and at the hub.</Trans>
      </p>
    );
  return (
    <>
      <ol aria-label={say`Found`} className="flex flex-col">
        {marks.map((mark, i) => (
          <li key={mark.id} className="grid grid-cols-[2rem_1fr_auto] gap-3 border-t border-line py-2">
            <span className="font-figure text-lg font-bold">{i + 1}</span>
            <div>
              <p>
                <button
                  type="button"
                  className="font-bold underline-offset-4 hover:underline"
                  onClick={() => mark.spoke && onSelect(mark.spoke)}
                >
                  {mark.name}
                  {mark.spoke && ` at ${mark.spoke}`}
                  {mark.measure_mm !== null && say`, ${figure(mark.measure_mm)} mm`}
                </button>{" "}
                <span className={mark.level === "record" ? "text-muted" : "font-bold text-danger"}>
                  {LEVEL[mark.level]}
                </span>
              </p>
              <p className="text-sm">
                {mark.why}
                {mark.why !== mark.remedy && <span className="text-muted"> {mark.remedy}</span>}
              </p>
              <p className="text-sm text-muted">
                {mark.note && `“${mark.note}” `}
                {mark.by}
                {mark.earlier_job !== null && say`, on job ${mark.earlier_job}`}
              </p>
            </div>
            {!closed && (
              <Button className="self-start text-sm" onClick={() => setEnding(mark)}>
                <Trans>
                  No longer so
                  <span className="sr-only">
                    : {mark.name} {mark.spoke}
                  </span>
                </Trans>
              </Button>
            )}
          </li>
        ))}
      </ol>
      {ending && <EndMark jobId={jobId} mark={ending} onClose={() => setEnding(null)} />}
    </>
  );
}

function EndMark({
  jobId,
  mark,
  onClose,
}: {
  jobId: string;
  mark: Schemas["ConditionMark"];
  onClose: () => void;
}) {
  const { endMark } = useCondition(jobId);
  const [how, setHow] = useState<Schemas["EndingHowEnum"]>("mended");
  const [note, setNote] = useState("");
  const problem = endMark.error instanceof Problem ? endMark.error : null;
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={`${mark.name} ${mark.spoke}`}
      lead={say`It stays in the history either way.`}
    >
      <form
        className="flex flex-col gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          endMark.go({ id: mark.id, how, note }, onClose);
        }}
      >
        <Choice<Schemas["EndingHowEnum"]>
          label={say`Why it no longer stands`}
          value={how}
          onChange={setHow}
          options={[
            { value: "mended", text: say`put right` },
            { value: "mistake", text: say`entered by mistake` },
          ]}
        />
        <TextField
          label={how === "mended" ? say`What was done` : say`What it was instead`}
          value={note}
          onChange={setNote}
          error={problem?.for("note")}
          autoFocus
        />
        {endMark.error && !problem?.for("note") && (
          <Notice kind="refusal">{sentenceOf(endMark.error)}</Notice>
        )}
        <div className="flex justify-end gap-3">
          <Button onClick={onClose}>
            <Trans>Leave it</Trans>
          </Button>
          <Button weight="now" type="submit" disabled={endMark.pending}>
            <Trans>Note it</Trans>
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

import { t as say } from "@lingui/core/macro";
import { IfFailed } from "@/ui/NotYet";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { ask } from "@/api/queries";
import { Dialog } from "@/ui/Dialog";
import { Notice } from "@/ui/Notice";
import { Curve } from "./Curve";

/** Can the spokes save this rim? One line, and behind it the curve, the bent stretches and the words for the customer. */
export function RimVerdict({ setId, tier, enough }: { setId: string; tier: string; enough: boolean }) {
  const [open, setOpen] = useState(false);
  const found = useQuery({ ...ask.verdict(setId), enabled: enough });
  if (!found.data) return <IfFailed of={found} />;
  const { why, can, bends } = found.data;
  return (
    <>
      <button
        type="button"
        onClick={() => setOpen(true)}
        className="min-h-12 self-start text-left underline decoration-line-strong underline-offset-4"
      >
        {can ? "" : "△ "}
        {why}
        {bends.length > 0 &&
          say` The rim itself is bent at ${bends.map((b) => nameOf(b.spokes)).join(" and ")}.`}
      </button>
      <Dialog open={open} onOpenChange={setOpen} title={say`Can the spokes save this rim?`}>
        <div className="flex flex-col gap-3">
          <Curve curve={found.data} tier={tier} />
          {bends.map((b) => (
            <Notice key={b.spokes.join()} kind="caution">
              {nameOf(b.spokes)}: {b.why}.
            </Notice>
          ))}
        </div>
      </Dialog>
    </>
  );
}

function nameOf(spokes: string[]): string {
  return spokes.length > 1 ? `${spokes[0]} to ${spokes.at(-1)}` : (spokes[0] ?? "");
}

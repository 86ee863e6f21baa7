import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { IfFailed } from "@/ui/NotYet";
import { keys } from "@/api/keys";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "@/api/client";
import { ask } from "@/api/queries";
import { Dialog } from "@/ui/Dialog";
import { PickField } from "@/ui/Field";
import { Notice } from "@/ui/Notice";
import { MENDS, verdictOf, sideName } from "./words";
import { figure } from "@/ui/number";

/** Another rim or hub from the parts library: do the old spokes still fit, or fit with the sides changed? */
export function SwapDialog({ jobId, onClose }: { jobId: string; onClose: () => void }) {
  const stock = useQuery(ask.stock());
  const [rim, setRim] = useState("");
  const [hub, setHub] = useState("");
  const found = useQuery({
    queryKey: keys.ofJob(jobId, "swap", rim, hub),
    queryFn: () =>
      answer(
        client.GET("/api/v1/jobs/{job_id}/sizing/swap", {
          params: { path: { job_id: jobId }, query: { rim_part: rim || null, hub_part: hub || null } },
        }),
      ),
    enabled: Boolean(rim || hub),
    retry: false,
  });
  const pick = (kind: string, none: string) => [
    { value: "", text: none },
    ...(stock.data?.parts.filter((p) => p.kind === kind).map((p) => ({ value: p.id, text: p.name })) ?? []),
  ];
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={say`Another rim or hub`}
      lead={say`What the change means for the spokes that are in the wheel.`}
    >
      <div className="flex flex-col gap-4">
        <PickField label={say`Rim`} value={rim} options={pick("rim", say`the same rim`)} onChange={setRim} />
        <PickField label={say`Hub`} value={hub} options={pick("hub", say`the same hub`)} onChange={setHub} />
        <IfFailed of={found} />
        {found.data && (
          <div aria-live="polite" className="flex flex-col gap-2">
            <p className="text-xl font-bold">{MENDS[found.data.advice]}</p>
            <p>{found.data.why}</p>
            {found.data.sides.map((s) => (
              <p key={s.side} className="border-t border-line pt-1">
                <Trans>
                  <strong>{sideName(s.side)}</strong>: needs{" "}
                  <span className="font-figure">{figure(s.needed_mm, 1)}</span> mm,{" "}
                  {s.change_mm >= 0 ? "+" : "−"}
                  {figure(Math.abs(s.change_mm), 1)}. Its own old spokes:{" "}
                  {s.own ? verdictOf(s.own) : say`not known, or too few`}; the other side&rsquo;s:{" "}
                  {s.other ? verdictOf(s.other) : say`not known, or too few`}.
                </Trans>
              </p>
            ))}
            {found.data.cautions.map((c) => (
              <Notice key={c} kind="news">
                {c}
              </Notice>
            ))}
          </div>
        )}
      </div>
    </Dialog>
  );
}

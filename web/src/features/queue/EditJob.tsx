import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { keys, touches } from "@/api/keys";
import { useWrite } from "@/write/useWrite";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { sentenceOf } from "@/api/problem";
import { ask } from "@/api/queries";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { PickField, TextField } from "@/ui/Field";
import { Notice } from "@/ui/Notice";
import { fromLocalInput, toLocalInput } from "@/ui/when";
import { Conflict } from "./Conflict";
import { HookField } from "./HookField";
import { changedSince, tierChoices, tierText } from "./tiers";

interface Draft {
  complaint: string;
  tier: string;
  /** The same tier, with what the shop means by it today. */
  anew: boolean;
  wanted: string;
  person: string;
  waiting: string;
  expected: string;
  hook: string;
}

function draftOf(job: Schemas["Job"]): Draft {
  return {
    complaint: job.complaint,
    tier: job.tier,
    anew: false,
    wanted: toLocalInput(job.wanted_at),
    person: job.assigned_to?.id ?? "",
    waiting: job.waiting_on ?? "",
    expected: job.expected_on ?? "",
    hook: job.hook?.id ?? "",
  };
}

/** Change what the shop agreed; where a colleague was quicker, both versions are shown and nothing is lost. */
export function EditJob({ job, onClose }: { job: Schemas["Job"]; onClose: () => void }) {
  const queries = useQueryClient();
  const staff = useQuery(ask.staff());
  const trade = useQuery(ask.trade());
  const [draft, setDraft] = useState(() => draftOf(job));
  // The version that was on screen when the dialog opened: what the person's change is based on.
  const [version] = useState(job.version);
  const set = (change: Partial<Draft>) => setDraft((d) => ({ ...d, ...change }));
  const save = useWrite({
    touches: touches.job(job.id),
    send: (basedOn: number, head) =>
      answer(
        client.PATCH("/api/v1/jobs/{job_id}", {
          params: { path: { job_id: job.id } },
          ...head,
          body: {
            version: basedOn,
            complaint: draft.complaint,
            tier: draft.tier,
            tier_anew: draft.tier === job.tier && draft.anew,
            wanted_at: fromLocalInput(draft.wanted),
            hook: draft.hook || null,
            expected_on: draft.waiting && draft.expected ? draft.expected : null,
            assigned_to: draft.person || null,
            waiting_on: draft.waiting as Schemas["WaitingOnEnum"],
          },
        }),
      ),
    fills: () => keys.ofJob(job.id, "head"),
    onSaved: () => {
      onClose();
    },
  });
  const error = save.refused;
  const today = changedSince(trade.data?.tiers ?? [], job.tolerance, draft.tier);
  const stale = error?.code === "stale_write" ? error : null;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    save.go(version);
  };

  return (
    <Dialog open onOpenChange={onClose} title={say`Change job ${job.number}`}>
      {stale ? (
        <Conflict
          problem={stale}
          staff={staff.data ?? []}
          onKeepMine={() => save.go(Number(stale.current?.["version"]))}
          onTakeTheirs={() => {
            void queries.invalidateQueries({ queryKey: keys.job(job.id) });
            onClose();
          }}
        />
      ) : (
        <form className="grid grid-cols-2 gap-4" onSubmit={submit}>
          <TextField
            label={say`Complaint, in the customer's words`}
            value={draft.complaint}
            onChange={(complaint) => set({ complaint })}
            error={error?.for("complaint")}
            className="col-span-2"
          />
          <TextField
            label={say`Wanted by`}
            type="datetime-local"
            value={draft.wanted}
            onChange={(wanted) => set({ wanted })}
            error={error?.for("wanted_at")}
          />
          <PickField
            label={say`Tier`}
            value={draft.tier}
            onChange={(tier) => set({ tier })}
            options={tierChoices(trade.data?.tiers ?? [], job.tolerance)}
            error={error?.for("tier")}
          />
          {today && (
            <label className="col-span-2 flex min-h-12 items-center gap-2">
              <input
                type="checkbox"
                checked={draft.anew}
                onChange={(e) => set({ anew: e.target.checked })}
                className="size-5"
              />
              <Trans>
                Hold it to the shop’s figures of today: {tierText(today)}. What was agreed before is asked
                again.
              </Trans>
            </label>
          )}
          <PickField
            label={say`Who has it`}
            value={draft.person}
            onChange={(person) => set({ person })}
            options={[
              { value: "", text: say`nobody yet` },
              ...(staff.data ?? []).map((p) => ({ value: p.id, text: p.name })),
            ]}
          />
          <PickField
            label={say`Waits for`}
            value={draft.waiting}
            onChange={(waiting) => set({ waiting })}
            options={[
              { value: "", text: say`nothing, ready to work` },
              { value: "customer", text: say`the customer` },
              { value: "parts", text: say`parts` },
              { value: "owner", text: say`the owner` },
            ]}
          />
          {draft.waiting === "parts" && (
            <TextField
              label={say`Parts are to come on`}
              type="date"
              value={draft.expected}
              onChange={(expected) => set({ expected })}
              error={error?.for("expected_on")}
            />
          )}
          <HookField value={draft.hook} onChange={(hook) => set({ hook })} />
          {save.error && (
            <div className="col-span-2">
              <Notice kind="refusal">{sentenceOf(save.error)}</Notice>
            </div>
          )}
          <div className="col-span-2 flex justify-end gap-3">
            <Button onClick={onClose}>
              <Trans>Leave as it was</Trans>
            </Button>
            <Button weight="now" type="submit" disabled={save.pending}>
              <Trans>Save</Trans>
            </Button>
          </div>
        </form>
      )}
    </Dialog>
  );
}

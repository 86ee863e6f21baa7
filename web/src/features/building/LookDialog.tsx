import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { figure, typedNumber } from "@/ui/number";
import { NumberField } from "@/ui/NumberField";
import { useWrite } from "@/write/useWrite";
import { touches } from "@/api/keys";
import { useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { Problem, sentenceOf } from "@/api/problem";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { PickField, TextField } from "@/ui/Field";
import { Notice } from "@/ui/Notice";

interface LookDialogProps {
  job: Schemas["Job"];
  lacing: Schemas["Lacing"];
  onClose: () => void;
}

type Seen = Schemas["SeenRequest"];
const EMPTY = { spoke: "", lean: "", crosses: "", head: "", flange_hole: "", reach: "" };

/** Say what is seen of a few spokes; the pattern behind them and what breaks it come back at once. */
export function LookDialog({ job, lacing, onClose }: LookDialogProps) {
  const [seen, setSeen] = useState<Seen[]>(() => lacing.looked.map(looked));
  const [row, setRow] = useState({ ...EMPTY, spoke: lacing.places[0]?.spoke ?? "" });
  const look = useWrite({
    touches: touches.job(job.id),
    send: (rows: Seen[], head) =>
      answer(
        client.POST("/api/v1/jobs/{job_id}/lacing/look", {
          params: { path: { job_id: job.id } },
          ...head,
          body: { seen: rows },
        }),
      ),
  });
  const send = (rows: Seen[]) => {
    look.go(rows, () => setSeen(rows));
  };
  const add = () => {
    const spoke = row.spoke.trim().toUpperCase();
    const made = {
      spoke,
      ...(row.lean && { lean: row.lean }),
      ...(row.head && { head: row.head }),
      ...(row.reach && { reach: row.reach }),
      ...(row.crosses.trim() && { crosses: typedNumber(row.crosses) ?? NaN }),
      ...(row.flange_hole.trim() && { flange_hole: typedNumber(row.flange_hole) ?? NaN }),
    } as Seen;
    send([...seen.filter((s) => s.spoke !== spoke), made]);
    const at = lacing.places.findIndex((p) => p.spoke === spoke);
    setRow({ ...EMPTY, spoke: lacing.places[at + 1]?.spoke ?? "" });
  };
  const set = (name: keyof typeof EMPTY) => (value: string) => setRow((r) => ({ ...r, [name]: value }));
  const verdict = seen.length ? look.data : undefined;
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={say`Is the lacing right?`}
      lead={say`A few spokes are enough; say only what you see of them, from the right side.`}
    >
      <form
        className="grid grid-cols-3 gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          add();
        }}
      >
        <TextField label={say`Spoke`} value={row.spoke} onChange={set("spoke")} autoFocus />
        <PickField
          label={say`Runs`}
          value={row.lean}
          onChange={set("lean")}
          options={[
            { value: "", text: say`not looked` },
            { value: "trailing", text: say`trailing: hub hole ahead, clockwise` },
            { value: "leading", text: say`leading: hub hole behind` },
            { value: "radial", text: say`straight to the hub` },
          ]}
        />
        <NumberField label={say`Crosses of its side`} value={row.crosses} whole onChange={set("crosses")} />
        <PickField
          label={say`Head`}
          value={row.head}
          onChange={set("head")}
          options={[
            { value: "", text: say`not looked` },
            { value: "in", text: say`in: spoke outside` },
            { value: "out", text: say`out: spoke inside` },
          ]}
        />
        <PickField
          label={say`Reaches the nipple`}
          value={row.reach}
          onChange={set("reach")}
          options={[
            { value: "", text: say`not looked` },
            { value: "short", text: say`barely` },
            { value: "right", text: say`as it should` },
            { value: "slack", text: say`stands slack` },
          ]}
        />
        <NumberField
          label={say`Hub hole, if counted`}
          value={row.flange_hole}
          whole
          onChange={set("flange_hole")}
        />
        <div className="col-span-3 flex gap-3">
          <Button type="submit" weight="now" disabled={look.pending || !row.spoke.trim()}>
            <Trans>That is what I see</Trans>
          </Button>
          {seen.length > 0 && (
            <Button
              onClick={() => {
                setSeen([]);
                look.reset();
              }}
            >
              <Trans>Start again</Trans>
            </Button>
          )}
        </div>
      </form>
      {look.error && (
        <Notice kind="refusal">
          {look.error instanceof Problem ? look.error.message : sentenceOf(look.error)}
        </Notice>
      )}
      {seen.length > 0 && (
        <p className="mt-3 text-sm text-muted">
          <Trans>Looked at: {seen.map((s) => s.spoke).join(", ")}</Trans>
        </p>
      )}
      {verdict && (
        <section aria-label={say`What it says`} aria-live="polite" className="mt-3 flex flex-col gap-2">
          {verdict.faults.length === 0 ? (
            <p className="text-xl font-bold">
              <Trans>Nothing seen speaks against the map.</Trans>
            </p>
          ) : (
            verdict.faults.map((f) => (
              <div
                key={f.key + f.spoke + (f.side ?? "")}
                className="border-l-8 border-danger bg-danger-soft p-2"
              >
                <p className="text-lg font-bold">
                  {!verdict.sure && <span className="font-normal">{say`Perhaps: `}</span>}
                  {f.what}
                </p>
                <p>{f.mend}</p>
              </div>
            ))
          )}
          {!verdict.sure && (
            <Notice kind="news">
              {verdict.also.length > 0 ? (
                <Trans>
                  Not sure yet; it could also be: {verdict.also.join(" Or: ")} Look at one more spoke.
                </Trans>
              ) : (
                <Trans>Not sure yet: too little was looked at. Take nothing apart for it.</Trans>
              )}
            </Notice>
          )}
          <Needs verdict={verdict} />
        </section>
      )}
    </Dialog>
  );
}

/** What was looked at earlier, without what was not. */
function looked(seen: Schemas["Lacing"]["looked"][number]): Seen {
  return Object.fromEntries(Object.entries(seen).filter(([, value]) => value !== null)) as unknown as Seen;
}

/** The spokes that would have to be longer or shorter as laced. */
function Needs({ verdict }: { verdict: Schemas["LacingVerdict"] }) {
  const off = verdict.needs.filter((n) => Math.abs(n.surplus_mm) > 1);
  if (off.length === 0) return null;
  return (
    <div>
      <h3 className="font-bold">
        <Trans>As laced, these would need another length</Trans>
      </h3>
      <ul className="flex flex-wrap gap-x-4 text-sm">
        {off.map((n) => (
          <li key={n.spoke}>
            <Trans>
              <strong>{n.spoke}</strong> <span className="font-figure">{figure(n.needed_mm, 1)}</span> mm,{" "}
              {n.surplus_mm < 0 ? `${figure(-n.surplus_mm, 1)} short` : `${figure(n.surplus_mm, 1)} to spare`}
            </Trans>
          </li>
        ))}
      </ul>
    </div>
  );
}

import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { keys, touches } from "@/api/keys";
import { askMoney } from "@/api/moneyQueries";
import { useMay } from "@/app/useMay";
import { Button } from "@/ui/Button";
import { PickField, TextField } from "@/ui/Field";
import { money } from "@/ui/money";
import { Notice } from "@/ui/Notice";
import { IfFailed } from "@/ui/NotYet";
import { useWrite, WriteState } from "@/write/useWrite";

interface LotDeedsProps {
  lot: Schemas["Lot"];
  picked: ReadonlySet<string>;
  onDone: () => void;
}

/** What is done for many wheels at once. Who was left out is named with the reason. */
export function LotDeeds({ lot, picked, onDone }: LotDeedsProps) {
  const may = useMay();
  const path = { params: { path: { lot_id: lot.id } } };
  const touched = [...touches.everything()];
  const [left, setLeft] = useState<Schemas["Done"]>();
  const [reason, setReason] = useState("");
  const back = useWrite({
    touches: touched,
    send: (_: void, head) =>
      answer(client.POST("/api/v1/lots/{lot_id}/return", { ...path, ...head, body: { jobs: [...picked] } })),
    onSaved: (done) => {
      setLeft(done);
      onDone();
    },
  });
  const apart = useWrite({
    touches: touched,
    send: (job: string, head) =>
      answer(
        client.PUT("/api/v1/lots/{lot_id}/items/{job_id}", {
          params: { path: { lot_id: lot.id, job_id: job } },
          ...head,
          body: { reason },
        }),
      ),
    fills: () => keys.lot(lot.id),
    onSaved: () => {
      setReason("");
      onDone();
    },
  });
  if (!may("lot_agree")) return null;
  const one = picked.size === 1 ? lot.items.find((item) => picked.has(item.job)) : undefined;
  return (
    <section aria-label={say`For many at once`} className="flex flex-col gap-3">
      <Agree lot={lot} onSaved={setLeft} />
      <div className="flex flex-wrap items-center gap-3">
        <Button disabled={picked.size === 0 || back.pending} onClick={() => back.go()}>
          {picked.size === 0 ? say`Pick wheels to give them back` : say`Give back ${picked.size}`}
        </Button>
        <Button weight="quiet" onClick={onDone} disabled={picked.size === 0}>
          <Trans>Pick none</Trans>
        </Button>
      </div>
      {one && (
        <form
          className="flex flex-wrap items-start gap-3"
          onSubmit={(event) => {
            event.preventDefault();
            apart.go(one.job);
          }}
        >
          <TextField
            label={
              one.reason ? say`${one.label} is set apart: ${one.reason}` : say`Set ${one.label} apart: why`
            }
            value={reason}
            onChange={setReason}
            maxLength={200}
            className="grow"
          />
          <Button type="submit" className="mt-6" disabled={apart.pending || (!reason.trim() && !one.reason)}>
            {reason.trim() ? say`Set apart` : say`Back among the others`}
          </Button>
        </form>
      )}
      <WriteState of={back} />
      <WriteState of={apart} />
      {left && (
        <Notice kind={left.left_out.length ? "caution" : "news"}>
          <Trans>{left.done} done.</Trans>
          {left.left_out.length > 0 && (
            <ul>
              {left.left_out.map((out) => (
                <li key={out.number}>
                  {out.label}: {out.reason}
                </li>
              ))}
            </ul>
          )}
        </Notice>
      )}
    </section>
  );
}

function Agree({ lot, onSaved }: { lot: Schemas["Lot"]; onSaved: (done: Schemas["Done"]) => void }) {
  const open = lot.items.filter(
    (item) => !item.agreed && item.state !== "returned" && item.state !== "exception",
  );
  const first = open[0]?.job ?? "";
  const [what, setWhat] = useState("true");
  const chosen = what.split(",");
  const quote = useQuery({ ...askMoney.quote(first, chosen, ""), enabled: first !== "" });
  const [whom, setWhom] = useState(lot.customer);
  const agree = useWrite({
    touches: touches.everything(),
    send: (each_minor: number, head) =>
      answer(
        client.POST("/api/v1/lots/{lot_id}/agree", {
          params: { path: { lot_id: lot.id } },
          ...head,
          body: { chosen, by_whom: whom, how: "writing", each_minor },
        }),
      ),
    onSaved,
  });
  if (open.length === 0 || (quote.isPending && what === "true")) return null;
  const each = quote.data?.gross_minor ?? null;
  return (
    <div className="rounded-md border border-line bg-plate p-3">
      <p>
        <Trans>
          {open.length} wheels wait for the owner’s word: {money(each, quote.data?.currency ?? "EUR")} each,{" "}
          <strong className="font-figure">
            {money(each === null ? null : each * open.length, quote.data?.currency ?? "EUR")}
          </strong>{" "}
          together.
        </Trans>
      </p>
      <IfFailed of={quote} />
      <div className="mt-2 flex flex-wrap items-start gap-3">
        <PickField
          label={say`What is agreed`}
          value={what}
          onChange={setWhat}
          options={[
            { value: "true", text: say`true them` },
            { value: "true,hub_overhaul", text: say`true them, overhaul the hubs` },
            { value: "rebuild", text: say`new spokes all round` },
            { value: "new_rim", text: say`new rims, laced anew` },
          ]}
        />
        <TextField
          label={say`Who says so, in writing`}
          value={whom}
          onChange={setWhom}
          className="grow"
          maxLength={120}
        />
        <Button
          className="mt-6"
          weight="now"
          disabled={agree.pending || each === null || !whom.trim()}
          onClick={() => each !== null && agree.go(each)}
        >
          <Trans>Agreed for all</Trans>
        </Button>
      </div>
      <WriteState of={agree} />
    </div>
  );
}

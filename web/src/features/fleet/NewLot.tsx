import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { useNavigate } from "react-router";
import { answer, client, type Schemas } from "@/api/client";
import { keys, touches } from "@/api/keys";
import { sentenceOf } from "@/api/problem";
import { ask } from "@/api/queries";
import { kindsFor } from "@/features/queue/takeInForm";
import { Button } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { Dialog } from "@/ui/Dialog";
import { BOX, FieldFrame, TextField } from "@/ui/Field";
import { Notice } from "@/ui/Notice";
import { IfFailed } from "@/ui/NotYet";
import { useWrite } from "@/write/useWrite";

type Position = Schemas["PositionEnum"];
type Brake = Schemas["NewLotRequest"]["brake"];

/** A lot from its owner's list of numbers, looked at before it is opened. */
export function NewLot({ onClose }: { onClose: () => void }) {
  const navigate = useNavigate();
  const customers = useQuery(ask.customers(""));
  const kinds = useQuery(ask.kinds());
  const [customer, setCustomer] = useState("");
  const [name, setName] = useState("");
  const [text, setText] = useState("");
  const [position, setPosition] = useState<Position>("rear");
  const [brake, setBrake] = useState<Brake>("rim");
  const [kind, setKind] = useState("");
  const [complaint, setComplaint] = useState("");
  const fitting = kindsFor(kinds.data ?? [], position, brake);
  const chosen = fitting.find((k) => k.key === kind) ?? fitting[0];
  const asked = { customer_id: customer, text, position };
  const seen = useQuery({
    queryKey: keys.sum("lot", asked),
    queryFn: () => answer(client.POST("/api/v1/lots/preview", { body: asked })),
    enabled: customer !== "" && text.trim() !== "",
    retry: false,
  });
  const open = useWrite({
    touches: [...touches.newJob(), keys.lots()],
    send: (_: void, head) =>
      answer(
        client.POST("/api/v1/lots", {
          ...head,
          body: {
            name,
            customer_id: customer,
            text,
            brake,
            complaint,
            wheel: { position, kind: chosen?.key ?? "", specification: chosen?.specification ?? {} },
          },
        }),
      ),
    onSaved: (lot) => void navigate(`/lots/${lot.id}`),
  });
  const problem = open.refused;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    open.go();
  };
  return (
    <Dialog open onOpenChange={onClose} title={say`Take in a lot`}>
      <form onSubmit={submit} className="flex flex-col gap-3">
        <IfFailed of={customers} />
        <FieldFrame label={say`Whose`} error={problem?.for("customer_id")}>
          {(ids) => (
            <select
              className={BOX}
              value={customer}
              onChange={(e) => setCustomer(e.target.value)}
              required
              {...ids}
            >
              <option value="">{say`choose`}</option>
              {customers.data?.map((c) => (
                <option key={c.id} value={c.id}>
                  {c.name}
                </option>
              ))}
            </select>
          )}
        </FieldFrame>
        <TextField
          label={say`What the lot is called`}
          value={name}
          onChange={setName}
          error={problem?.for("name")}
          required
          maxLength={120}
        />
        <div className="flex flex-wrap gap-3">
          <Choice<Position>
            label={say`Which wheel`}
            value={position}
            onChange={setPosition}
            options={[
              { value: "front", text: say`front` },
              { value: "rear", text: say`rear` },
            ]}
          />
          <Choice<Brake>
            label={say`Brake`}
            value={brake}
            onChange={setBrake}
            options={[
              { value: "rim", text: say`rim brake` },
              { value: "disc", text: say`disc` },
              { value: "hub", text: say`in the hub` },
            ]}
          />
        </div>
        <FieldFrame label={say`All are built like`} error={problem?.for("wheel")}>
          {(ids) => (
            <select
              className={BOX}
              value={chosen?.key ?? ""}
              onChange={(e) => setKind(e.target.value)}
              {...ids}
            >
              {fitting.map((k) => (
                <option key={k.key} value={k.key}>
                  {k.name}
                </option>
              ))}
            </select>
          )}
        </FieldFrame>
        <TextField
          label={say`What is asked for`}
          value={complaint}
          onChange={setComplaint}
          error={problem?.for("complaint")}
          required
          maxLength={500}
        />
        <FieldFrame
          label={say`Numbers`}
          error={problem?.for("text") ?? (seen.error ? sentenceOf(seen.error) : undefined)}
          help={say`One a line, or a CSV with a column “asset”`}
        >
          {(ids) => (
            <textarea
              className={`${BOX} min-h-32 py-2 font-figure`}
              value={text}
              onChange={(e) => setText(e.target.value)}
              required
              {...ids}
            />
          )}
        </FieldFrame>
        <input
          type="file"
          accept=".csv,.txt,text/csv,text/plain"
          aria-label={say`Numbers from a file`}
          onChange={(e) => void e.target.files?.[0]?.text().then(setText)}
        />
        {seen.data && <Seen seen={seen.data} />}
        {problem && !problem.errors.length && <Notice kind="refusal">{sentenceOf(problem)}</Notice>}
        <div className="flex justify-end gap-3">
          <Button onClick={onClose}>
            <Trans>Not now</Trans>
          </Button>
          <Button type="submit" weight="now" disabled={open.pending || !chosen || !seen.data}>
            {seen.data ? say`Open ${seen.data.count} jobs` : say`Open the jobs`}
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

function Seen({ seen }: { seen: Schemas["Preview"] }) {
  return (
    <Notice kind={seen.already_open.length ? "caution" : "news"}>
      <Trans>{seen.count} wheels.</Trans>{" "}
      {seen.known.length > 0 && say`${seen.known.length} are known here already.`}{" "}
      {seen.doubled.length > 0 && say`Twice in the list, taken once: ${seen.doubled.join(", ")}.`}{" "}
      {seen.already_open.length > 0 && say`Open already, take them out: ${seen.already_open.join(", ")}.`}
    </Notice>
  );
}

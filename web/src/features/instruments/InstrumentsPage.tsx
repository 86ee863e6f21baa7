import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useWrite } from "@/write/useWrite";
import { touches } from "@/api/keys";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { sentenceOf } from "@/api/problem";
import { ask } from "@/api/queries";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { PickField, TextField } from "@/ui/Field";
import { Notice } from "@/ui/Notice";
import { NotYet } from "@/ui/NotYet";
import { InstrumentDetail } from "./InstrumentDetail";

export const KINDS: { value: Schemas["InstrumentKindEnum"]; text: string }[] = [
  { value: "tension_meter", text: say`Tension meter` },
  { value: "dial", text: say`Dial gauge` },
  { value: "caliper", text: say`Caliper` },
  { value: "ruler", text: say`Ruler or rods` },
  { value: "dishing_gauge", text: say`Dishing gauge` },
  { value: "stand", text: say`Truing stand` },
];

const WORDS: Record<Schemas["Standing"]["word"], string> = {
  good: say`✓ good`,
  due_soon: say`◔ due soon`,
  overdue: say`! overdue`,
  drifted: say`! failed`,
  never: say`! never checked`,
};

/** Can I trust what I measure with: every instrument of the shop, what stands against it, and how it is checked. */
export default function InstrumentsPage() {
  const instruments = useQuery(ask.instruments());
  const [picked, setPicked] = useState("");
  const [adding, setAdding] = useState(false);
  if (!instruments.data) return <NotYet of={[instruments]} what={say`the instruments`} />;
  const all = instruments.data;
  const shown = all.find((i) => i.id === picked) ?? all[0];
  return (
    <main className="grid flex-1 grid-cols-1 gap-6 p-4 lg:grid-cols-[360px_1fr]">
      <section aria-label={say`Instruments`} className="flex flex-col gap-2">
        <div className="flex items-center justify-between">
          <h1>
            <Trans>Instruments</Trans>
          </h1>
          <Button onClick={() => setAdding(true)}>
            <Trans>Add one</Trans>
          </Button>
        </div>
        <ul>
          {all.map((i) => (
            <li key={i.id} className="border-t border-line">
              <button
                type="button"
                aria-pressed={i.id === shown?.id}
                onClick={() => setPicked(i.id)}
                className={`flex min-h-14 w-full items-center justify-between gap-3 px-2 text-left ${i.id === shown?.id ? "bg-plate" : ""}`}
              >
                <span>
                  <span className="font-bold">{i.name}</span>
                  <span className="block text-sm text-muted">
                    {i.kind_name}
                    {i.use !== "in_use" && `, ${i.use === "resting" ? say`put aside` : say`retired`}`}
                  </span>
                </span>
                <span
                  className={`text-sm whitespace-nowrap ${i.standing.warns ? "font-bold text-danger" : "text-muted"}`}
                >
                  {WORDS[i.standing.word]}
                </span>
              </button>
            </li>
          ))}
        </ul>
      </section>
      {shown ? (
        <InstrumentDetail key={shown.id} instrument={shown} />
      ) : (
        <p className="text-muted">
          <Trans>No instrument yet. Add the meter that you trust most first.</Trans>
        </p>
      )}
      {adding && (
        <AddDialog
          onClose={() => setAdding(false)}
          onAdded={(id) => {
            setAdding(false);
            setPicked(id);
          }}
        />
      )}
    </main>
  );
}

function AddDialog({ onClose, onAdded }: { onClose: () => void; onAdded: (id: string) => void }) {
  const [name, setName] = useState("");
  const [kind, setKind] = useState<Schemas["InstrumentKindEnum"]>("tension_meter");
  const [owner, setOwner] = useState("");
  const [serial, setSerial] = useState("");
  const [address, setAddress] = useState("");
  const add = useWrite({
    touches: touches.instruments(),
    send: (_: void, head) =>
      answer(
        client.POST("/api/v1/instruments", {
          ...head,
          body: { name, kind, owner, serial, address },
        }),
      ),
    onSaved: (made) => {
      onAdded(made.id);
    },
  });
  const problem = add.refused;
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={say`Add an instrument`}
      lead={say`Where it is not the shop's, say whose it is.`}
    >
      <form
        className="grid grid-cols-2 gap-x-4 gap-y-2"
        onSubmit={(event) => {
          event.preventDefault();
          add.go();
        }}
      >
        <TextField
          label={say`Name`}
          value={name}
          onChange={setName}
          error={problem?.for("name")}
          required
          autoFocus
        />
        <PickField
          label={say`Kind`}
          value={kind}
          options={KINDS}
          onChange={(k) => setKind(k as typeof kind)}
        />
        <TextField label={say`Owner`} value={owner} onChange={setOwner} />
        <TextField label={say`Serial`} value={serial} onChange={setSerial} />
        <TextField
          label={say`Address`}
          value={address}
          onChange={setAddress}
          error={problem?.for("address")}
          help={say`host:port of one that streams lines; else empty`}
        />
        <div className="self-center text-right">
          <Button type="submit" weight="now" disabled={add.pending}>
            <Trans>Add it</Trans>
          </Button>
        </div>
        {problem && problem.errors.length === 0 && <Notice kind="refusal">{sentenceOf(problem)}</Notice>}
      </form>
    </Dialog>
  );
}

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
  { value: "tension_meter", text: "Tension meter" },
  { value: "dial", text: "Dial gauge" },
  { value: "caliper", text: "Caliper" },
  { value: "ruler", text: "Ruler or rods" },
  { value: "dishing_gauge", text: "Dishing gauge" },
  { value: "stand", text: "Truing stand" },
];

const WORDS: Record<Schemas["Standing"]["word"], string> = {
  good: "✓ good",
  due_soon: "◔ due soon",
  overdue: "! overdue",
  drifted: "! failed",
  never: "! never checked",
};

/** Can I trust what I measure with: every instrument of the shop, what stands against it, and how it is checked. */
export default function InstrumentsPage() {
  const instruments = useQuery(ask.instruments());
  const [picked, setPicked] = useState("");
  const [adding, setAdding] = useState(false);
  if (!instruments.data) return <NotYet of={[instruments]} what="the instruments" />;
  const all = instruments.data;
  const shown = all.find((i) => i.id === picked) ?? all[0];
  return (
    <main className="grid flex-1 grid-cols-1 gap-6 p-4 lg:grid-cols-[360px_1fr]">
      <section aria-label="Instruments" className="flex flex-col gap-2">
        <div className="flex items-center justify-between">
          <h1>Instruments</h1>
          <Button onClick={() => setAdding(true)}>Add one</Button>
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
                    {i.use !== "in_use" && `, ${i.use === "resting" ? "put aside" : "retired"}`}
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
        <p className="text-muted">No instrument yet. Add the meter that you trust most first.</p>
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
      title="Add an instrument"
      lead="Where it is not the shop's, say whose it is."
    >
      <form
        className="grid grid-cols-2 gap-x-4 gap-y-2"
        onSubmit={(event) => {
          event.preventDefault();
          add.go();
        }}
      >
        <TextField
          label="Name"
          value={name}
          onChange={setName}
          error={problem?.for("name")}
          required
          autoFocus
        />
        <PickField label="Kind" value={kind} options={KINDS} onChange={(k) => setKind(k as typeof kind)} />
        <TextField label="Owner" value={owner} onChange={setOwner} />
        <TextField label="Serial" value={serial} onChange={setSerial} />
        <TextField
          label="Address"
          value={address}
          onChange={setAddress}
          error={problem?.for("address")}
          help="host:port of one that streams lines; else empty"
        />
        <div className="self-center text-right">
          <Button type="submit" weight="now" disabled={add.pending}>
            Add it
          </Button>
        </div>
        {problem && problem.errors.length === 0 && <Notice kind="refusal">{sentenceOf(problem)}</Notice>}
      </form>
    </Dialog>
  );
}

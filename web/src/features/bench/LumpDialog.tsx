import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { NumberField } from "@/ui/NumberField";
import { type Head, useWrite } from "@/write/useWrite";
import { type KeyboardEvent, useRef, useState } from "react";
import type { Schemas } from "@/api/client";
import { sentenceOf } from "@/api/problem";
import { Button } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { Dialog } from "@/ui/Dialog";
import { TextField } from "@/ui/Field";
import { Notice } from "@/ui/Notice";
import { typedNumber } from "@/ui/number";

export type Lump = Schemas["LumpRequest"];

interface LumpDialogProps {
  send: (lump: Lump, head: Head) => Promise<unknown>;
  spoke: string;
  onClose: () => void;
  onDone: () => void;
}

/** A lump told by its extremes: where it starts and ends against the pointer, how high, to which side. */
export function LumpDialog({ send: sendIt, spoke, onClose, onDone }: LumpDialogProps) {
  const [kind, setKind] = useState<Schemas["DialKindEnum"]>("lateral");
  const [way, setWay] = useState<"plus" | "minus">("plus");
  const [first, setFirst] = useState(spoke);
  const [last, setLast] = useState("");
  const [height, setHeight] = useState("");
  const [slip, setSlip] = useState("");
  const send = useWrite({
    send: (height_mm: number, head) =>
      sendIt(
        kind === "lateral"
          ? { kind, first: sided(first), last: sided(last), height_mm, toward: way === "plus" ? "R" : "L" }
          : {
              kind,
              first: sided(first),
              last: sided(last),
              height_mm: way === "plus" ? height_mm : -height_mm,
            },
        head,
      ),
    onSaved: () => {
      onDone();
      onClose();
    },
  });
  const problem = send.refused;
  const form = useRef<HTMLFormElement>(null);
  /** By the ten keys: * and / say sideways or up and down, + and − which way, Enter goes on, digits alone keep the side. */
  const onKeyDown = (event: KeyboardEvent) => {
    if (!(event.target instanceof HTMLInputElement) || event.repeat) return;
    const fields = [...(form.current?.querySelectorAll("input") ?? [])];
    const after = fields[fields.indexOf(event.target) + 1];
    if (event.key === "*" || event.key === "/") setKind(kind === "lateral" ? "radial" : "lateral");
    else if (event.key === "+") setWay("plus");
    else if (event.key === "-") setWay("minus");
    else if (event.key === "Enter" && after) after.focus();
    else return;
    event.preventDefault();
  };
  const sided = (typed: string) => {
    const name = typed.trim().toUpperCase();
    return /^\d+$/.test(name) ? `${spoke.slice(0, 1) || "R"}${name}` : name;
  };
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={say`A lump, by eye`}
      lead={say`Where it starts and ends against the pointer, in the direction of travel, and how high it is. Keys: * sideways or up and down, + and − which way, Enter goes on.`}
    >
      <form
        className="flex flex-col gap-4"
        ref={form}
        onKeyDown={onKeyDown}
        onSubmit={(event) => {
          event.preventDefault();
          const mm = typedNumber(height);
          if (mm === null || mm <= 0) return setSlip(say`Enter its height in millimetres.`);
          setSlip("");
          send.go(mm);
        }}
      >
        <div className="flex flex-wrap gap-4">
          <Choice<Schemas["DialKindEnum"]>
            label={say`Kind of lump`}
            value={kind}
            onChange={setKind}
            options={[
              { value: "lateral", text: say`sideways` },
              { value: "radial", text: say`up and down` },
            ]}
          />
          <Choice
            label={say`Which way`}
            value={way}
            onChange={setWay}
            options={
              kind === "lateral"
                ? [
                    { value: "plus", text: say`to the right` },
                    { value: "minus", text: say`to the left` },
                  ]
                : [
                    { value: "plus", text: say`a hop` },
                    { value: "minus", text: say`a flat` },
                  ]
            }
          />
        </div>
        <div className="flex gap-4">
          <TextField
            label={say`From spoke`}
            value={first}
            onChange={setFirst}
            onFocus={(event) => event.target.select()}
            error={problem?.for("first")}
            className="w-28"
          />
          <TextField
            label={say`To spoke`}
            value={last}
            onChange={setLast}
            error={problem?.for("last")}
            className="w-28"
            autoFocus
          />
          <NumberField
            label={say`Height, mm`}
            min={0}
            unit="mm"
            value={height}
            onChange={setHeight}
            error={slip || problem?.for("height_mm")}
            className="w-32"
          />
        </div>
        {problem && problem.errors.length === 0 && <Notice kind="refusal">{sentenceOf(problem)}</Notice>}
        <div className="flex justify-end gap-3">
          <Button onClick={onClose}>
            <Trans>Leave it</Trans>
          </Button>
          <Button type="submit" weight="now" disabled={send.pending}>
            <Trans>Record the lump</Trans>
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

import { word } from "@/ui/words";
import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { ask } from "@/api/queries";
import { Button } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { Dialog } from "@/ui/Dialog";
import { TextField } from "@/ui/Field";
import { IfFailed } from "@/ui/NotYet";
import { NumberField } from "@/ui/NumberField";
import { typedNumber } from "@/ui/number";
import { useWrite, WriteState } from "@/write/useWrite";
import { useInstrument } from "./instrument";
import { sourceText, tensionEntry } from "./sources";

type Kind = "tension" | "lateral" | "radial";

interface LiveReadProps {
  step: Schemas["LiveStep"];
  spoke: string;
  onStep: (step: Schemas["LiveStep"]) => void;
  onClose: () => void;
}

/** One reading between two nipples, with the source that this tablet reads tensions with. */
export function LiveRead({ step, spoke, onStep, onClose }: LiveReadProps) {
  const meters = useQuery(ask.meters());
  const [source] = useInstrument(meters.data ?? []);
  const meter = meters.data?.find((m) => m.id === source);
  const [kind, setKind] = useState<Kind>("tension");
  const [at, setAt] = useState(spoke);
  const [text, setText] = useState("");
  const [slip, setSlip] = useState("");
  const send = useWrite({
    send: (entry: Partial<Schemas["LiveReadingRequest"]>, head) =>
      answer(
        client.POST("/api/v1/plans/{plan_id}/live/reading", {
          params: { path: { plan_id: step.plan_id } },
          ...head,
          body: { version: step.version, kind, spoke: at.trim(), ...entry },
        }),
      ),
    onSaved: (found) => {
      onStep(found);
      onClose();
    },
  });
  const unit = kind === "tension" ? sourceText(source, meter) : "mm";
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={say`Read one spoke`}
      lead={say`One value of the dial counts where the dial stands as it did when all places were read.`}
    >
      <form
        className="flex flex-col gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          const value = typedNumber(text);
          if (value === null) return setSlip(say`That is no number.`);
          const entry =
            kind === "tension" ? tensionEntry(source, meter, value) : { value, unit: "mm" as const };
          if (typeof entry === "string") return setSlip(entry);
          setSlip("");
          send.go(entry);
        }}
      >
        <IfFailed of={meters} />
        <Choice<Kind>
          label={say`What is read`}
          value={kind}
          onChange={setKind}
          options={(["tension", "lateral", "radial"] as const).map((k) => ({ value: k, text: word(k) }))}
        />
        <div className="flex gap-4">
          <TextField
            label={say`Spoke`}
            value={at}
            onChange={(v) => setAt(v.toUpperCase())}
            error={send.refused?.for("spoke")}
            className="w-28"
          />
          <NumberField
            label={say`Value, ${unit}`}
            value={text}
            onChange={setText}
            error={slip || send.refused?.for("value")}
            className="w-36"
            autoFocus
          />
        </div>
        <WriteState of={send} fields={["spoke", "value"]} />
        <div className="flex justify-end gap-3">
          <Button onClick={onClose}>
            <Trans>Leave it</Trans>
          </Button>
          <Button type="submit" weight="now" disabled={send.pending}>
            <Trans>Record it</Trans>
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

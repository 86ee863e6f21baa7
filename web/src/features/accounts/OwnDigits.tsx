import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { type FormEvent, useState } from "react";
import { answer, client } from "@/api/client";
import { touches } from "@/api/keys";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { TextField } from "@/ui/Field";
import { useWrite, WriteState } from "@/write/useWrite";

/** One's own digits for a shared tablet. */
export function OwnDigits({ onClose }: { onClose: () => void }) {
  const [pin, setPin] = useState("");
  const save = useWrite({
    touches: touches.shop(),
    send: (digits: string) => answer(client.PUT("/api/v1/session/pin", { body: { pin: digits } })),
    onSaved: onClose,
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    save.go(pin);
  };
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={say`Your digits`}
      lead={say`With them you take over a shared tablet that somebody of the shop has signed in on. Empty takes them away.`}
    >
      <form onSubmit={submit} className="flex flex-col gap-4">
        <TextField
          label={say`Four to eight digits`}
          type="password"
          inputMode="numeric"
          autoComplete="off"
          maxLength={8}
          value={pin}
          onChange={setPin}
          error={save.refused?.for("pin")}
          autoFocus
        />
        <WriteState of={save} fields={["pin"]} />
        <div className="flex justify-end gap-3">
          <Button onClick={onClose}>
            <Trans>Leave as it was</Trans>
          </Button>
          <Button type="submit" weight="now" disabled={save.pending}>
            <Trans>Save</Trans>
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

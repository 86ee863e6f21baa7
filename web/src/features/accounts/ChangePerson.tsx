import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { ask } from "@/api/queries";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { TextField } from "@/ui/Field";
import { IfFailed } from "@/ui/NotYet";
import { classes } from "@/ui/classes";
import { useWrite, WriteState } from "@/write/useWrite";

interface ChangePersonProps {
  me: string;
  onChanged: (session: Schemas["Session"]) => void;
  onClose: () => void;
}

/** A shared tablet goes from hand to hand: a name and four digits. The full sign-in stands behind it. */
export function ChangePerson({ me, onChanged, onClose }: ChangePersonProps) {
  const staff = useQuery(ask.staff());
  const [person, setPerson] = useState("");
  const [pin, setPin] = useState("");
  const change = useWrite({
    send: (digits: string) => answer(client.POST("/api/v1/session/pin", { body: { person, pin: digits } })),
    onSaved: (session) => {
      onClose();
      onChanged(session);
    },
    onRefused: () => setPin(""),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (person && pin) change.go(pin);
  };
  return (
    <Dialog open onOpenChange={onClose} title={say`Who is at this tablet now?`}>
      <IfFailed of={staff} />
      <form onSubmit={submit} className="flex flex-col gap-4">
        <div role="group" aria-label={say`Staff`} className="flex flex-wrap gap-2">
          {(staff.data ?? [])
            .filter((p) => p.id !== me)
            .map((p) => (
              <button
                key={p.id}
                type="button"
                aria-pressed={p.id === person}
                onClick={() => {
                  setPerson(p.id);
                  change.reset();
                }}
                className={classes(
                  "min-h-14 rounded-sm border px-4 text-lg",
                  p.id === person ? "border-ink bg-ink text-face" : "border-line-strong bg-plate",
                )}
              >
                {p.name}
              </button>
            ))}
        </div>
        {person && (
          <TextField
            key={person}
            label={say`Digits`}
            type="password"
            inputMode="numeric"
            autoComplete="off"
            maxLength={8}
            value={pin}
            onChange={setPin}
            error={change.refused?.message}
            autoFocus
          />
        )}
        {!change.refused && <WriteState of={change} />}
        <div className="flex justify-end gap-3">
          <Button onClick={onClose}>
            <Trans>Stay</Trans>
          </Button>
          <Button type="submit" weight="now" disabled={!person || !pin || change.pending}>
            <Trans>Change</Trans>
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

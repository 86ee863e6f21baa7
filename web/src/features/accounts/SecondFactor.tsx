import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { type FormEvent, useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { keys } from "@/api/keys";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { TextField } from "@/ui/Field";
import { QrCode } from "@/ui/QrCode";
import { useWrite, WriteState } from "@/write/useWrite";

/** A code from one's own device besides the password. */
export function SecondFactor({ of: account }: { of: Schemas["OwnAccount"] }) {
  // What was begun is ended, whatever is heard of the account meanwhile: spare codes are shown but once.
  const [asking, setAsking] = useState<"" | "begin" | "end">("");
  return (
    <section aria-label={say`Second factor`} className="flex flex-col gap-2">
      <h2>
        <Trans>Second factor</Trans>
      </h2>
      <p className="text-sm text-muted">
        {account.second_factor ? (
          <Trans>
            At sign-in a code from your device is asked for. {account.spare_codes} spare codes are left.
          </Trans>
        ) : (
          <Trans>
            With one, your password alone opens nothing: a code from your own device is asked for as well.
            Digits at a shared tablet stay as they are.
          </Trans>
        )}
      </p>
      <Button className="w-fit" onClick={() => setAsking(account.second_factor ? "end" : "begin")}>
        {account.second_factor ? say`Ask for no code any more …` : say`Ask for a code too …`}
      </Button>
      {asking === "end" && <EndDialog onClose={() => setAsking("")} />}
      {asking === "begin" && <BeginDialog onClose={() => setAsking("")} />}
    </section>
  );
}

function PasswordForm({
  label,
  error,
  busy,
  onPassword,
}: {
  label: string;
  error: string | undefined;
  busy: boolean;
  onPassword: (password: string) => void;
}) {
  const [password, setPassword] = useState("");
  const submit = (event: FormEvent) => {
    event.preventDefault();
    onPassword(password);
  };
  return (
    <form onSubmit={submit} className="flex flex-col gap-4">
      <TextField
        label={say`Your password`}
        type="password"
        value={password}
        onChange={setPassword}
        error={error}
        autoComplete="current-password"
        maxLength={200}
        autoFocus
        required
      />
      <Button type="submit" weight="now" className="w-fit" disabled={busy}>
        {label}
      </Button>
    </form>
  );
}

/** The password, then a square for the device, then its first code, then the spare codes: each once. */
function BeginDialog({ onClose }: { onClose: () => void }) {
  const [code, setCode] = useState("");
  const begin = useWrite({
    send: (password: string) => answer(client.POST("/api/v1/account/second-factor", { body: { password } })),
  });
  const confirm = useWrite({
    touches: [keys.account()],
    send: (typed: string) => answer(client.PUT("/api/v1/account/second-factor", { body: { code: typed } })),
    onRefused: () => setCode(""),
  });
  const made = begin.data;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    confirm.go(code);
  };
  if (confirm.data) {
    return (
      <Dialog
        open
        onOpenChange={onClose}
        title={say`Spare codes`}
        lead={say`Each opens once, for when the device is lost. They are shown now and never again: write them down, and keep them away from the device.`}
      >
        <div className="flex flex-col gap-4">
          <ol className="grid grid-cols-2 gap-2 font-figure text-lg" aria-label={say`Spare codes`}>
            {confirm.data.codes.map((spare) => (
              <li key={spare} data-typed>
                {spare.slice(0, 6)} {spare.slice(6)}
              </li>
            ))}
          </ol>
          <Button weight="now" className="w-fit" onClick={onClose}>
            <Trans>I have written them down</Trans>
          </Button>
        </div>
      </Dialog>
    );
  }
  return (
    <Dialog open onOpenChange={onClose} title={say`Ask for a code too`}>
      {!made ? (
        <>
          <PasswordForm
            label={say`Go on`}
            error={begin.refused?.for("password")}
            busy={begin.pending}
            onPassword={(password) => begin.go(password)}
          />
          <WriteState of={begin} fields={["password"]} />
        </>
      ) : (
        <form onSubmit={submit} className="flex flex-col gap-4">
          <p>
            <Trans>
              Read this square with the authenticator of your device, or type the text below into it.
            </Trans>
          </p>
          <QrCode rows={made.rows} label={say`The secret for your device`} className="size-56" />
          <p className="font-figure break-all" data-typed>
            {made.secret.match(/.{1,4}/g)?.join(" ")}
          </p>
          <TextField
            label={say`The code that it shows now`}
            value={code}
            onChange={setCode}
            error={confirm.refused?.for("code")}
            inputMode="numeric"
            autoComplete="one-time-code"
            maxLength={20}
            required
          />
          <WriteState of={confirm} fields={["code"]} />
          <Button type="submit" weight="now" className="w-fit" disabled={confirm.pending}>
            <Trans>From now on ask for it</Trans>
          </Button>
        </form>
      )}
    </Dialog>
  );
}

function EndDialog({ onClose }: { onClose: () => void }) {
  const end = useWrite({
    fills: () => keys.account(),
    send: (password: string) => answer(client.PATCH("/api/v1/account/second-factor", { body: { password } })),
    onSaved: onClose,
  });
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={say`Ask for no code any more`}
      lead={say`Then your password alone opens everything that you may do.`}
    >
      <PasswordForm
        label={say`Ask for none`}
        error={end.refused?.for("password")}
        busy={end.pending}
        onPassword={(password) => end.go(password)}
      />
      <WriteState of={end} fields={["password"]} />
    </Dialog>
  );
}

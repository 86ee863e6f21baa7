import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { type FormEvent, useState } from "react";
import { useParams } from "react-router";
import { answer, client, speaksFor } from "@/api/client";
import { Button } from "@/ui/Button";
import { TextField } from "@/ui/Field";
import { useWrite, WriteState } from "@/write/useWrite";

/** Where the link of the letter leads: a new password, without the old one. */
export default function NewPasswordPage() {
  const { person = "", token = "" } = useParams();
  const [password, setPassword] = useState("");
  const save = useWrite({
    send: (chosen: string) =>
      answer(client.PUT("/api/v1/session/new-password", { body: { person, token, password: chosen } })),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    speaksFor("");
    save.go(password);
  };
  return (
    <main className="grid min-h-dvh place-items-center bg-sea p-6">
      <div className="flex w-full max-w-sm flex-col gap-4 rounded-md bg-face p-6">
        <h1 className="text-2xl">
          <Trans>A new password</Trans>
        </h1>
        {save.saved ? (
          <>
            <p role="status">
              <Trans>It is set, and every device is signed out.</Trans>
            </p>
            <a className="underline" href="/">
              <Trans>Sign in with it</Trans>
            </a>
          </>
        ) : (
          <form onSubmit={submit} className="flex flex-col gap-4">
            <TextField
              label={say`New password`}
              help={say`Ten characters or more that nobody guesses.`}
              type="password"
              value={password}
              onChange={setPassword}
              error={save.refused?.for("password")}
              autoComplete="new-password"
              maxLength={200}
              autoFocus
              required
            />
            <WriteState of={save} fields={["password"]} />
            <Button type="submit" weight="now" disabled={save.pending}>
              <Trans>Set it</Trans>
            </Button>
          </form>
        )}
      </div>
    </main>
  );
}

import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { type FormEvent, useState } from "react";
import { answer, client, type Schemas, speaksFor } from "@/api/client";
import { sentenceOf } from "@/api/problem";
import { chooseLanguage, otherLanguages } from "@/app/language";
import { Button } from "@/ui/Button";
import { TextField } from "@/ui/Field";
import { Notice } from "@/ui/Notice";

interface SignInFormProps {
  /** Who was signed in on this screen, where somebody was. */
  username?: string;
  onSignedIn: (session: Schemas["Session"]) => void;
}

export function SignInForm({ username: known = "", onSignedIn }: SignInFormProps) {
  const [username, setUsername] = useState(known);
  const [password, setPassword] = useState("");
  const [refusal, setRefusal] = useState("");
  const [busy, setBusy] = useState(false);
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    if (busy) return;
    setBusy(true);
    speaksFor("");
    try {
      onSignedIn(await answer(client.POST("/api/v1/session", { body: { username, password } })));
    } catch (error) {
      setRefusal(sentenceOf(error));
    }
    setBusy(false);
  };
  return (
    <form onSubmit={(e) => void submit(e)} className="flex flex-col gap-4" aria-label={say`Sign in`}>
      <TextField
        label={say`Name`}
        value={username}
        onChange={setUsername}
        autoComplete="username"
        autoCapitalize="none"
        autoFocus={!known}
        required
      />
      <TextField
        label={say`Password`}
        type="password"
        value={password}
        onChange={setPassword}
        autoComplete="current-password"
        autoFocus={Boolean(known)}
        required
      />
      {refusal && <Notice kind="refusal">{refusal}</Notice>}
      <Button type="submit" weight="now" disabled={busy}>
        <Trans>Sign in</Trans>
      </Button>
    </form>
  );
}

export function SignIn({ onSignedIn }: Pick<SignInFormProps, "onSignedIn">) {
  return (
    <main className="grid min-h-dvh place-items-center bg-sea p-6">
      <div className="flex w-full max-w-sm flex-col gap-4 rounded-md bg-face p-6">
        <div>
          <h1 className="text-2xl">
            <Trans>Felloe</Trans>
          </h1>
          <p className="text-muted">
            <Trans>The wheel bench. Say who you are.</Trans>
          </p>
        </div>
        <SignInForm onSignedIn={onSignedIn} />
        <div className="flex justify-end">
          {otherLanguages().map(({ code, name }) => (
            <Button key={code} weight="quiet" onClick={() => chooseLanguage(code)}>
              <span lang={code}>{name}</span>
            </Button>
          ))}
        </div>
      </div>
    </main>
  );
}

import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { type FormEvent, useState } from "react";
import { answer, client, type Schemas, speaksFor } from "@/api/client";
import { Problem, sentenceOf } from "@/api/problem";
import { chooseLanguage, otherLanguages } from "@/app/language";
import { Button } from "@/ui/Button";
import { TextField } from "@/ui/Field";
import { Notice } from "@/ui/Notice";
import { Forgotten } from "./Forgotten";
import { knownShop, rememberShop } from "./whichShop";

interface SignInFormProps {
  /** Who was signed in on this screen, where somebody was. */
  username?: string;
  onSignedIn: (session: Schemas["Session"]) => void;
}

/** Name and password; the shop where several work on the server, a code where the person has a second factor. */
export function SignInForm({ username: known = "", onSignedIn }: SignInFormProps) {
  const [username, setUsername] = useState(known);
  const [password, setPassword] = useState("");
  const [shop, setShop] = useState(knownShop);
  const [code, setCode] = useState("");
  const [asksShop, setAsksShop] = useState(() => Boolean(knownShop()));
  const [asksCode, setAsksCode] = useState(false);
  const [refusal, setRefusal] = useState("");
  const [busy, setBusy] = useState(false);
  const [forgotten, setForgotten] = useState(false);
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    if (busy) return;
    setBusy(true);
    speaksFor("");
    setRefusal("");
    try {
      const session = await answer(
        client.POST("/api/v1/session", { body: { username, password, shop, code } }),
      );
      if (shop) rememberShop(shop);
      onSignedIn(session);
    } catch (error) {
      const why = error instanceof Problem ? error.code : "";
      if (why === "shop_needed") setAsksShop(true);
      if (why === "code_needed" || why === "code_wrong") setAsksCode(true);
      setCode("");
      // Asked for the first time it is no refusal: the field says what is wanted.
      if (why === "code_needed" || (why === "shop_needed" && !asksShop)) setRefusal("");
      else setRefusal(sentenceOf(error));
    }
    setBusy(false);
  };
  if (forgotten) {
    return (
      <Forgotten username={username} shop={shop} asksShop={asksShop} onBack={() => setForgotten(false)} />
    );
  }
  return (
    <form onSubmit={(e) => void submit(e)} className="flex flex-col gap-4" aria-label={say`Sign in`}>
      {asksShop && (
        <TextField
          label={say`Shop`}
          help={say`Its short name on this server; the owner knows it.`}
          value={shop}
          onChange={setShop}
          autoComplete="organization"
          autoCapitalize="none"
          maxLength={40}
          autoFocus={!shop}
          required
        />
      )}
      <TextField
        label={say`Name`}
        value={username}
        onChange={setUsername}
        autoComplete="username"
        autoCapitalize="none"
        maxLength={150}
        autoFocus={!known}
        required
      />
      <TextField
        label={say`Password`}
        type="password"
        value={password}
        onChange={setPassword}
        autoComplete="current-password"
        maxLength={200}
        autoFocus={Boolean(known)}
        required
      />
      {asksCode && (
        <TextField
          label={say`Code`}
          help={say`The six digits that your device shows now, or one of your spare codes.`}
          value={code}
          onChange={setCode}
          autoComplete="one-time-code"
          autoCapitalize="none"
          maxLength={20}
          autoFocus
          required
        />
      )}
      {refusal && <Notice kind="refusal">{refusal}</Notice>}
      <Button type="submit" weight="now" disabled={busy}>
        <Trans>Sign in</Trans>
      </Button>
      <Button weight="quiet" onClick={() => setForgotten(true)}>
        <Trans>Password forgotten</Trans>
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

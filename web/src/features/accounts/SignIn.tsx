import { useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { answer, client } from "@/api/client";
import { sentenceOf } from "@/api/problem";
import { Button } from "@/ui/Button";
import { TextField } from "@/ui/Field";
import { Notice } from "@/ui/Notice";

export function SignIn() {
  const queries = useQueryClient();
  const [username, setUsername] = useState("");
  const [password, setPassword] = useState("");
  const [refusal, setRefusal] = useState("");
  const [busy, setBusy] = useState(false);

  const submit = async (event: FormEvent) => {
    event.preventDefault();
    setBusy(true);
    try {
      const session = await answer(client.POST("/api/v1/session", { body: { username, password } }));
      queries.setQueryData(["session"], session);
      await queries.invalidateQueries({ queryKey: ["session"] });
    } catch (error) {
      setRefusal(sentenceOf(error));
      setBusy(false);
    }
  };

  return (
    <main className="grid min-h-dvh place-items-center bg-sea p-6">
      <form
        onSubmit={(e) => void submit(e)}
        className="flex w-full max-w-sm flex-col gap-4 rounded-md bg-face p-6"
        aria-labelledby="sign-in"
      >
        <div>
          <h1 id="sign-in" className="text-2xl">
            Felloe
          </h1>
          <p className="text-muted">The wheel bench. Say who you are.</p>
        </div>
        <TextField
          label="Name"
          value={username}
          onChange={setUsername}
          autoComplete="username"
          autoCapitalize="none"
          autoFocus
          required
        />
        <TextField
          label="Password"
          type="password"
          value={password}
          onChange={setPassword}
          autoComplete="current-password"
          required
        />
        {refusal && <Notice kind="refusal">{refusal}</Notice>}
        <Button type="submit" weight="now" disabled={busy}>
          Sign in
        </Button>
      </form>
    </main>
  );
}

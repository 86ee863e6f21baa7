import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { keys } from "@/api/keys";
import { ask } from "@/api/queries";
import { askRecord } from "@/api/recordQueries";
import { Button } from "@/ui/Button";
import { TextField } from "@/ui/Field";
import { NotYet } from "@/ui/NotYet";
import { dayAndTime } from "@/ui/when";
import { useWrite, WriteState } from "@/write/useWrite";
import { Branches } from "./Branches";
import { SecondFactor } from "./SecondFactor";
import { deviceWords } from "./device";

type Account = Schemas["OwnAccount"];

/** One's own sign-in: the password, where letters go, a second factor, and where one is signed in. */
export default function AccountPage() {
  const me = useQuery(ask.session());
  const account = useQuery(askRecord.account());
  return (
    <main className="mx-auto flex w-full max-w-3xl flex-col gap-8 p-4 md:p-6">
      <h1 className="text-2xl">
        <Trans>Your sign-in</Trans>
      </h1>
      <p className="text-muted">
        <Trans>
          Name <strong data-typed>{me.data?.username}</strong>, at the shop{" "}
          <strong data-typed>{me.data?.shop_code}</strong>: so you sign in on another device.
        </Trans>
      </p>
      {!account.data ? (
        <NotYet of={[account]} what={say`your sign-in`} />
      ) : (
        <>
          <Sessions of={account.data} />
          <SecondFactor of={account.data} />
          <Branches of={account.data} />
          <Password />
          <Address of={account.data} />
        </>
      )}
    </main>
  );
}

function Sessions({ of: account }: { of: Account }) {
  const end = useWrite({
    fills: () => keys.account(),
    send: (id: string) =>
      answer(
        id
          ? client.DELETE("/api/v1/account/sessions/{session_id}", { params: { path: { session_id: id } } })
          : client.DELETE("/api/v1/account/sessions"),
      ),
  });
  const others = account.sessions.filter((s) => !s.here);
  return (
    <section aria-label={say`Signed in on`} className="flex flex-col gap-2">
      <h2>
        <Trans>Signed in on</Trans>
      </h2>
      <ul className="flex flex-col">
        {account.sessions.map((s) => (
          <li key={s.id} className="flex flex-wrap items-center gap-x-4 gap-y-1 border-t border-line py-2">
            <div className="min-w-0 flex-1">
              <span className="font-bold">{deviceWords(s.device)}</span>
              {s.here && (
                <span className="ml-2 rounded-sm bg-signal px-1.5 text-sm text-signal-ink">
                  <Trans>here</Trans>
                </span>
              )}
              <span className="block text-sm break-words text-muted" data-typed>
                {s.device}
              </span>
              <span className="block text-sm text-muted">
                <Trans>
                  seen {dayAndTime(s.seen_at)} from {s.address || say`an unknown address`}, since{" "}
                  {dayAndTime(s.began_at)}
                </Trans>
                {s.by_digits && <> · {say`by digits`}</>}
              </span>
            </div>
            {!s.here && (
              <Button disabled={end.pending} onClick={() => end.go(s.id)}>
                <Trans>Sign out there</Trans>
              </Button>
            )}
          </li>
        ))}
      </ul>
      <WriteState of={end} />
      {others.length > 1 && (
        <Button className="w-fit" disabled={end.pending} onClick={() => end.go("")}>
          <Trans>Sign out everywhere but here</Trans>
        </Button>
      )}
    </section>
  );
}

function Password() {
  const [old, setOld] = useState("");
  const [fresh, setFresh] = useState("");
  const save = useWrite({
    fills: () => keys.account(),
    send: (body: { old: string; new: string }) => answer(client.POST("/api/v1/account/password", { body })),
    onSaved: () => {
      setOld("");
      setFresh("");
    },
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    save.go({ old, new: fresh });
  };
  return (
    <section aria-label={say`Password`} className="flex flex-col gap-2">
      <h2>
        <Trans>Password</Trans>
      </h2>
      <form onSubmit={submit} className="grid max-w-xl gap-x-4 gap-y-2 sm:grid-cols-2">
        <TextField
          label={say`The present one`}
          type="password"
          value={old}
          onChange={setOld}
          error={save.refused?.for("old")}
          autoComplete="current-password"
          maxLength={200}
          required
        />
        <TextField
          label={say`The new one`}
          help={say`Ten characters or more that nobody guesses.`}
          type="password"
          value={fresh}
          onChange={setFresh}
          error={save.refused?.for("new")}
          autoComplete="new-password"
          maxLength={200}
          required
        />
        <div className="flex flex-col gap-2 sm:col-span-2">
          <WriteState of={save} fields={["old", "new"]} />
          {save.saved && (
            <p role="status">
              <Trans>The password is changed, and every other device is signed out.</Trans>
            </p>
          )}
          <Button type="submit" className="w-fit" disabled={save.pending}>
            <Trans>Change the password</Trans>
          </Button>
        </div>
      </form>
    </section>
  );
}

function Address({ of: account }: { of: Account }) {
  const [email, setEmail] = useState(account.email);
  const [password, setPassword] = useState("");
  const save = useWrite({
    fills: () => keys.account(),
    send: (body: { email: string; password: string }) => answer(client.PATCH("/api/v1/account", { body })),
    onSaved: () => setPassword(""),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    save.go({ email, password });
  };
  return (
    <section aria-label={say`Letters about your sign-in`} className="flex flex-col gap-2">
      <h2>
        <Trans>Letters about your sign-in</Trans>
      </h2>
      <p className="text-sm text-muted">
        <Trans>Where the link goes when you have forgotten the password, and word when it was changed.</Trans>
      </p>
      <form onSubmit={submit} className="grid max-w-xl gap-x-4 gap-y-2 sm:grid-cols-2">
        <TextField
          label={say`E-mail`}
          type="email"
          value={email}
          onChange={setEmail}
          error={save.refused?.for("email")}
          autoComplete="email"
          maxLength={200}
        />
        <TextField
          label={say`Your password`}
          type="password"
          value={password}
          onChange={setPassword}
          error={save.refused?.for("password")}
          autoComplete="current-password"
          maxLength={200}
          required
        />
        <div className="flex flex-col gap-2 sm:col-span-2">
          <WriteState of={save} fields={["email", "password"]} />
          {save.saved && (
            <p role="status">
              <Trans>Kept.</Trans>
            </p>
          )}
          <Button type="submit" className="w-fit" disabled={save.pending}>
            <Trans>Keep this address</Trans>
          </Button>
        </div>
      </form>
    </section>
  );
}

import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { type FormEvent, useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { keys } from "@/api/keys";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { TextField } from "@/ui/Field";
import { useWrite, WriteState } from "@/write/useWrite";

/** The other shops where this person works: joined once, gone to without a password. */
export function Branches({ of: account }: { of: Schemas["OwnAccount"] }) {
  const [joining, setJoining] = useState(false);
  const go = useWrite({
    send: (branch: string) => answer(client.POST("/api/v1/session/branch", { body: { branch } })),
    // A fresh page: nothing of the one shop stays in memory for the other.
    onSaved: () => window.location.assign("/"),
  });
  const part = useWrite({
    fills: () => keys.account(),
    send: () => answer(client.DELETE("/api/v1/account/branches")),
  });
  return (
    <section aria-label={say`Other shops`} className="flex flex-col gap-2">
      <h2>
        <Trans>Other shops</Trans>
      </h2>
      {account.branches.length === 0 ? (
        <p className="text-sm text-muted">
          <Trans>
            Who works in several shops on this server joins the names once, and then goes from one shop to the
            other here.
          </Trans>
        </p>
      ) : (
        <ul className="flex flex-col">
          {account.branches.map((branch) => (
            <li key={branch.id} className="flex flex-wrap items-center gap-4 border-t border-line py-2">
              <span className="min-w-0 flex-1">
                <strong data-typed>{branch.shop}</strong>{" "}
                <span className="text-sm text-muted" data-typed>
                  {branch.username}
                </span>
              </span>
              <Button weight="now" disabled={go.pending} onClick={() => go.go(branch.id)}>
                <Trans>Go on there</Trans>
              </Button>
            </li>
          ))}
        </ul>
      )}
      <WriteState of={go} />
      <WriteState of={part} />
      <div className="flex flex-wrap gap-3">
        <Button onClick={() => setJoining(true)}>
          <Trans>Join another name …</Trans>
        </Button>
        {account.branches.length > 0 && (
          <Button weight="quiet" disabled={part.pending} onClick={() => part.go()}>
            <Trans>Part this name from the others</Trans>
          </Button>
        )}
      </div>
      {joining && <JoinDialog onClose={() => setJoining(false)} />}
    </section>
  );
}

function JoinDialog({ onClose }: { onClose: () => void }) {
  const [shop, setShop] = useState("");
  const [username, setUsername] = useState("");
  const [password, setPassword] = useState("");
  const [code, setCode] = useState("");
  const join = useWrite({
    fills: () => keys.account(),
    send: (body: Schemas["BranchJoinRequest"]) => answer(client.POST("/api/v1/account/branches", { body })),
    onSaved: onClose,
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    join.go({ shop, username, password, code });
  };
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={say`Join another name`}
      lead={say`Your name in another shop on this server, and the password there. Afterwards each leads to the other without one.`}
    >
      <form onSubmit={submit} className="flex flex-col gap-4">
        <TextField
          label={say`Shop`}
          value={shop}
          onChange={setShop}
          error={join.refused?.for("shop")}
          autoCapitalize="none"
          maxLength={40}
          autoFocus
          required
        />
        <TextField
          label={say`Name there`}
          value={username}
          onChange={setUsername}
          autoCapitalize="none"
          autoComplete="off"
          maxLength={150}
          required
        />
        <TextField
          label={say`Password there`}
          type="password"
          value={password}
          onChange={setPassword}
          error={join.refused?.for("password")}
          autoComplete="off"
          maxLength={200}
          required
        />
        {join.refused?.for("code") && (
          <TextField
            label={say`Code`}
            value={code}
            onChange={setCode}
            error={join.refused.for("code")}
            autoComplete="one-time-code"
            maxLength={20}
            required
          />
        )}
        <WriteState of={join} fields={["shop", "password", "code"]} />
        <div className="flex justify-end gap-3">
          <Button onClick={onClose}>
            <Trans>Leave it</Trans>
          </Button>
          <Button type="submit" weight="now" disabled={join.pending}>
            <Trans>Join</Trans>
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

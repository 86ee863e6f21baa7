import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { type FormEvent, useState } from "react";
import { answer, client } from "@/api/client";
import { Button } from "@/ui/Button";
import { TextField } from "@/ui/Field";
import { useWrite, WriteState } from "@/write/useWrite";

interface ForgottenProps {
  username: string;
  shop: string;
  asksShop: boolean;
  onBack: () => void;
}

/** A letter with a link is asked for. Whether the name is anybody's is not said. */
export function Forgotten({ username: known, shop: knownShop, asksShop, onBack }: ForgottenProps) {
  const [username, setUsername] = useState(known);
  const [shop, setShop] = useState(knownShop);
  const ask = useWrite({
    send: (body: { username: string; shop: string }) =>
      answer(client.POST("/api/v1/session/new-password", { body })),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    ask.go({ username, shop });
  };
  return (
    <form onSubmit={submit} className="flex flex-col gap-4" aria-label={say`Password forgotten`}>
      <p>
        <Trans>
          A letter with a link goes to the address that you have left under “Your sign-in”. If you have left
          none, the owner of the shop gives you a new password.
        </Trans>
      </p>
      {(asksShop || ask.refused?.for("shop")) && (
        <TextField
          label={say`Shop`}
          value={shop}
          onChange={setShop}
          error={ask.refused?.for("shop")}
          autoCapitalize="none"
          maxLength={40}
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
        autoFocus
        required
      />
      <WriteState of={ask} fields={["shop"]} />
      {ask.saved && (
        <p role="status" className="font-bold">
          <Trans>If that name has an address, the letter is on its way. Its link is good for an hour.</Trans>
        </p>
      )}
      <Button type="submit" weight="now" disabled={ask.pending || ask.saved}>
        <Trans>Send the letter</Trans>
      </Button>
      <Button weight="quiet" onClick={onBack}>
        <Trans>Back to the sign-in</Trans>
      </Button>
    </form>
  );
}

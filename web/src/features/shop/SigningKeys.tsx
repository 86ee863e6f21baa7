import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { keys, touches } from "@/api/keys";
import { askRecord } from "@/api/recordQueries";
import { Button } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { Dialog } from "@/ui/Dialog";
import { IfFailed } from "@/ui/NotYet";
import { dayAndTime } from "@/ui/when";
import { useWrite, WriteState } from "@/write/useWrite";

type Key = Schemas["Keys"]["keys"][number];
type Ended = Schemas["KeyEndedEnum"];

/** What reports are signed with: the digits that a customer compares, and the page that checks a report without the shop. */
export function SigningKeys({ owner }: { owner: boolean }) {
  const found = useQuery(askRecord.signing());
  const [open, setOpen] = useState(false);
  const rows = found.data?.keys ?? [];
  const now = rows.find((key) => !key.ended_at);
  return (
    <section aria-label={say`Signed reports`} className="flex flex-col gap-2">
      <h2>
        <Trans>Signed reports</Trans>
      </h2>
      <p className="text-sm text-muted">
        <Trans>
          Every report as PDF is signed with the shop’s key. The page that checks one needs no network and no
          server: give it away, or put it where customers find it.
        </Trans>
      </p>
      <IfFailed of={found} />
      {now && !now.opens && (
        <p role="alert" className="rounded-sm border border-danger p-2">
          <Trans>
            The key in use cannot be opened here: this installation’s secret is not the one it was sealed
            under. Reports go out unsigned until a new key is made.
          </Trans>
        </p>
      )}
      {found.data && rows.length === 0 && (
        <p className="text-muted">
          <Trans>No key yet: the first report as PDF makes it.</Trans>
        </p>
      )}
      <ul className="flex flex-col">
        {rows.map((key) => (
          <KeyLine key={key.key} of={key} />
        ))}
      </ul>
      <div className="flex flex-wrap items-center gap-4">
        <a className="tap underline" href="/api/v1/signing-keys/check-report.html" download>
          <Trans>The page that checks a report</Trans>
        </a>
        {owner && now && (
          <Button onClick={() => setOpen(true)}>
            <Trans>Give up this key …</Trans>
          </Button>
        )}
      </div>
      {open && now && <EndDialog of={now} onClose={() => setOpen(false)} />}
    </section>
  );
}

const KEY_WORDS = {
  followed: () => say`followed by the next, which it vouches for`,
  lost: () => say`lost`,
  stolen: () => say`in other hands: what it signed may be forged`,
};

function KeyLine({ of: key }: { of: Key }) {
  return (
    <li className="border-t border-line py-1">
      <span className="font-figure">{key.fingerprint}</span>
      <span className="block text-sm text-muted">
        <Trans>
          since {dayAndTime(key.since)}, {key.by}
        </Trans>
        {key.vouched && <> · {say`the key before it vouches for it`}</>}
        {key.ended_at && (
          <>
            {" · "}
            {KEY_WORDS[key.ended_as as Ended]()}, {dayAndTime(key.ended_at)}, {key.ended_by}
          </>
        )}
      </span>
    </li>
  );
}

function EndDialog({ of: key, onClose }: { of: Key; onClose: () => void }) {
  const [how, setHow] = useState<Ended>("followed");
  const save = useWrite({
    touches: touches.signing(),
    fills: () => keys.signing(),
    send: (key_ended: Ended, head) =>
      answer(client.POST("/api/v1/signing-keys", { ...head, body: { key: key.key, key_ended } })),
    onSaved: onClose,
  });
  const means = {
    followed: say`The next key carries this one’s word, so pages that know this one go on knowing the shop.`,
    lost: say`What it signed stays genuine. Nothing vouches for the next key: give the page away anew.`,
    stolen: say`The page will call everything it ever signed unsure. Nothing vouches for the next key: give the page away anew, and print old reports again.`,
  };
  return (
    <Dialog open onOpenChange={onClose} title={say`Give up the key`} lead={key.fingerprint}>
      <div className="flex flex-col gap-3">
        <Choice
          label={say`Why`}
          value={how}
          onChange={setHow}
          options={[
            { value: "followed", text: say`In good hands all along` },
            { value: "lost", text: say`Lost` },
            { value: "stolen", text: say`In other hands` },
          ]}
        />
        <p>{means[how]}</p>
        <p className="text-muted">
          <Trans>This cannot be taken back.</Trans>
        </p>
        <WriteState of={save} />
        <div className="flex justify-end gap-3">
          <Button onClick={onClose}>
            <Trans>Keep this key</Trans>
          </Button>
          <Button weight="now" disabled={save.pending} onClick={() => save.go(how)}>
            <Trans>Give it up, make the next</Trans>
          </Button>
        </div>
      </div>
    </Dialog>
  );
}

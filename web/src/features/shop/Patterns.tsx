import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { keys } from "@/api/keys";
import { ask } from "@/api/queries";
import { askRecord } from "@/api/recordQueries";
import { useMay } from "@/app/useMay";
import { Button } from "@/ui/Button";
import { classes } from "@/ui/classes";
import { Dialog } from "@/ui/Dialog";
import { LinesField, PickField, TextField } from "@/ui/Field";
import { IfFailed } from "@/ui/NotYet";
import { headWord, word } from "@/ui/words";
import { useWrite, WriteState } from "@/write/useWrite";

type Pattern = Schemas["WheelKind"];
const touched = [keys.patterns(), keys.kinds()];

/** The shop's own kinds of wheels: offered at take-in before the generic ones. */
export function Patterns() {
  const patterns = useQuery(askRecord.patterns());
  const may = useMay();
  const [open, setOpen] = useState<Pattern | null>(null);
  const [taken, setTaken] = useState<Schemas["PatternsIn"] | null>(null);
  const take = useWrite({
    touches: touched,
    onSaved: setTaken,
    send: (text: string, head) =>
      answer(
        client.POST("/api/v1/patterns/take", {
          headers: { ...head.headers, "Content-Type": "application/json" },
          body: {},
          bodySerializer: () => text,
        }),
      ),
  });
  return (
    <section aria-label={say`Patterns`} className="flex flex-col gap-2">
      <h2>
        <Trans>Patterns</Trans>
      </h2>
      <p className="text-sm text-muted">
        <Trans>
          The shop’s own kinds of wheels. One is kept from a wheel, on “Parts of the wheel”; a wheel that is
          taken in may start as one.
        </Trans>
      </p>
      <IfFailed of={patterns} />
      <ul>
        {patterns.data?.map((pattern) => (
          <li
            key={pattern.key}
            className={classes(
              "flex items-center gap-3 border-t border-line py-1",
              !pattern.in_use && "text-muted",
            )}
          >
            <p className="min-w-0 flex-1">
              <strong>{pattern.name}</strong>{" "}
              <span className="text-sm text-muted">
                {word(pattern.position)}
                {pattern.tier && `, ${word(pattern.tier)}`}
                {!pattern.in_use && `, ${say`not offered`}`}
              </span>
              {pattern.note && <span className="block text-sm text-muted">{pattern.note}</span>}
            </p>
            {may("pattern_change") && (
              <Button
                weight="quiet"
                onClick={() => setOpen(pattern)}
                aria-label={say`Change ${pattern.name}`}
              >
                <Trans>Change</Trans>
              </Button>
            )}
          </li>
        ))}
      </ul>
      <div className="flex flex-wrap items-center gap-4">
        <a className="tap underline" href="/api/v1/patterns/file" download>
          <Trans>As a file</Trans>
        </a>
        {may("patterns_in") && (
          <label className="flex min-w-0 flex-wrap items-center gap-2">
            <span>
              <Trans>Take in from a file</Trans>
            </span>
            <input
              type="file"
              accept=".json,application/json"
              className="min-h-11 max-w-full"
              onChange={(event) => {
                const file = event.target.files?.[0];
                event.target.value = "";
                if (file) void file.text().then((text) => take.go(text));
              }}
            />
          </label>
        )}
      </div>
      <WriteState of={take} />
      {taken && (
        <p role="status">
          <Trans>
            {taken.taken} taken in; here already: {taken.known.length}.
          </Trans>
        </p>
      )}
      {open && <ChangeDialog of={open} onClose={() => setOpen(null)} />}
    </section>
  );
}

function ChangeDialog({ of: pattern, onClose }: { of: Pattern; onClose: () => void }) {
  const tiers = useQuery(ask.tiers());
  const [name, setName] = useState(pattern.name);
  const [note, setNote] = useState(pattern.note);
  const [tier, setTier] = useState(pattern.tier ?? "");
  const save = useWrite({
    touches: touched,
    send: (in_use: boolean, head) =>
      answer(
        client.PATCH("/api/v1/patterns/{pattern_id}", {
          ...head,
          params: { path: { pattern_id: idOf(pattern.key) } },
          body: { version: pattern.version ?? 0, name, note, tier, in_use },
        }),
      ),
    onSaved: onClose,
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    save.go(pattern.in_use ?? true);
  };
  return (
    <Dialog open onOpenChange={onClose} title={say`Pattern: ${pattern.name}`}>
      <form onSubmit={submit} className="flex flex-col gap-2">
        <TextField
          label={say`Name`}
          value={name}
          onChange={setName}
          maxLength={80}
          error={save.refused?.for("name")}
        />
        <PickField
          label={say`Tier`}
          value={tier}
          onChange={setTier}
          options={[
            { value: "", text: say`the shop’s usual` },
            ...(tiers.data ?? [])
              .filter((t) => t.in_use)
              .map((t) => ({ value: t.name, text: headWord(t.name) })),
          ]}
        />
        <LinesField label={say`What to mind`} value={note} onChange={setNote} maxLength={500} />
        <WriteState of={save} fields={["name"]} />
        <div className="flex flex-wrap justify-end gap-3">
          <Button className="mr-auto" disabled={save.pending} onClick={() => save.go(!pattern.in_use)}>
            {pattern.in_use ? say`Offer it no longer` : say`Offer it again`}
          </Button>
          <Button onClick={onClose}>
            <Trans>Leave as it was</Trans>
          </Button>
          <Button weight="now" type="submit" disabled={save.pending}>
            <Trans>Save</Trans>
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

/** A wheel says by "own-" and 32 digits what it was started from. */
function idOf(key: string): string {
  return key.replace(/^own-(.{8})(.{4})(.{4})(.{4})(.{12})$/, "$1-$2-$3-$4-$5");
}

/** The wheel as it stands, kept as one of the shop's patterns. */
export function KeepPattern({ wheelId, onClose }: { wheelId: string; onClose: () => void }) {
  const [name, setName] = useState("");
  const [note, setNote] = useState("");
  const keep = useWrite({
    touches: touched,
    send: (_: undefined, head) =>
      answer(client.POST("/api/v1/patterns", { ...head, body: { wheel: wheelId, name, note } })),
    onSaved: onClose,
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    keep.go(undefined);
  };
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={say`Keep as a pattern`}
      lead={say`The wheel as it was saved last; the next of its kind may start as this.`}
    >
      <form onSubmit={submit} className="flex flex-col gap-2">
        <TextField
          label={say`Name`}
          value={name}
          onChange={setName}
          maxLength={80}
          required
          error={keep.refused?.for("name")}
        />
        <LinesField label={say`What to mind`} value={note} onChange={setNote} maxLength={500} />
        <WriteState of={keep} fields={["name"]} />
        <div className="flex justify-end gap-3">
          <Button onClick={onClose}>
            <Trans>Leave it</Trans>
          </Button>
          <Button weight="now" type="submit" disabled={keep.pending}>
            <Trans>Keep it</Trans>
          </Button>
        </div>
      </form>
    </Dialog>
  );
}

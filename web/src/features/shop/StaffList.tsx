import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { touches } from "@/api/keys";
import { ask } from "@/api/queries";
import { Button } from "@/ui/Button";
import { PickField, TextField } from "@/ui/Field";
import { IfFailed } from "@/ui/NotYet";
import { useWrite, WriteState } from "@/write/useWrite";
import { PersonDialog } from "./PersonDialog";
import { ROLES } from "./roles";

type Staff = Schemas["Staff"];

/** Who works here, in which role; the owner opens one to change it. */
export function StaffList({ owner }: { owner: boolean }) {
  const all = useQuery({ ...ask.allStaff(), enabled: owner });
  const some = useQuery(ask.staff());
  const [opened, setOpened] = useState("");
  const [adding, setAdding] = useState(false);
  const person = all.data?.find((p) => p.id === opened);
  return (
    <section className="flex flex-col gap-2">
      <h2>
        <Trans>Staff</Trans>
      </h2>
      <IfFailed of={some} />
      {owner && <IfFailed of={all} />}
      <ul>
        {owner
          ? (all.data ?? []).map((p) => <Line key={p.id} person={p} onOpen={() => setOpened(p.id)} />)
          : (some.data ?? []).map((p) => (
              <li key={p.id} className="flex min-h-10 items-center gap-4 border-t border-line">
                {p.name} <span className="text-muted">{ROLES[p.role ?? "mechanic"]}</span>
              </li>
            ))}
      </ul>
      {owner && !adding && (
        <Button className="self-start" onClick={() => setAdding(true)}>
          <Trans>Another person</Trans>
        </Button>
      )}
      {adding && <NewPerson onDone={() => setAdding(false)} />}
      {person && <PersonDialog key={person.version} person={person} onClose={() => setOpened("")} />}
    </section>
  );
}

function Line({ person, onOpen }: { person: Staff; onOpen: () => void }) {
  return (
    <li className="border-t border-line">
      <button
        type="button"
        onClick={onOpen}
        className="flex min-h-12 w-full flex-wrap items-center gap-x-4 text-left hover:bg-sunk"
      >
        <strong className={person.is_active ? "" : "font-normal line-through"}>{person.name}</strong>
        <span>{ROLES[person.role ?? "mechanic"]}</span>
        <span className="text-sm text-muted">
          {person.is_active ? (person.has_pin ? say`has digits` : "") : say`has left`}
        </span>
      </button>
    </li>
  );
}

const EMPTY = { username: "", name: "", role: "mechanic" as const, password: "" };

function NewPerson({ onDone }: { onDone: () => void }) {
  const [draft, setDraft] = useState<Schemas["StaffAddRequest"]>(EMPTY);
  const set = (change: Partial<typeof draft>) => setDraft((d) => ({ ...d, ...change }));
  const add = useWrite({
    touches: touches.shop(),
    send: (body: typeof draft, head) => answer(client.POST("/api/v1/shop/staff", { ...head, body })),
    onSaved: onDone,
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    add.go(draft);
  };
  return (
    <form onSubmit={submit} className="grid grid-cols-2 gap-x-4 gap-y-1 border-l-4 border-ink pl-3">
      <TextField
        label={say`Name`}
        value={draft.name}
        onChange={(name) => set({ name })}
        error={add.refused?.for("name")}
        autoFocus
      />
      <TextField
        label={say`Signs in as`}
        value={draft.username}
        onChange={(username) => set({ username })}
        error={add.refused?.for("username")}
        autoComplete="off"
      />
      <PickField
        label={say`Role`}
        value={draft.role}
        onChange={(role) => set({ role: role as typeof draft.role })}
        options={Object.entries(ROLES).map(([value, text]) => ({ value, text }))}
      />
      <TextField
        label={say`First password`}
        type="password"
        value={draft.password}
        onChange={(password) => set({ password })}
        error={add.refused?.for("password")}
        help={say`Ten characters or more`}
        autoComplete="new-password"
      />
      <div className="col-span-2">
        <WriteState of={add} fields={["name", "username", "password"]} />
      </div>
      <div className="col-span-2 flex gap-3">
        <Button type="submit" weight="now" disabled={add.pending}>
          <Trans>Add</Trans>
        </Button>
        <Button onClick={onDone}>
          <Trans>Not now</Trans>
        </Button>
      </div>
    </form>
  );
}

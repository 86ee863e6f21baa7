import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { touches } from "@/api/keys";
import { ask } from "@/api/queries";
import { Button } from "@/ui/Button";
import { TextField } from "@/ui/Field";
import { IfFailed } from "@/ui/NotYet";
import { useWrite, WriteState } from "@/write/useWrite";

type Place = Schemas["ShopPlace"];

/** Stands where wheels are worked on, and hooks where they hang. */
export function PlacesList({ owner }: { owner: boolean }) {
  const places = useQuery(ask.places());
  const of = (kind: Place["kind"]) => (places.data ?? []).filter((p) => p.kind === kind);
  return (
    <section className="flex flex-col gap-4">
      <h2>
        <Trans>Stands and hooks</Trans>
      </h2>
      <IfFailed of={places} />
      <Kind kind="stand" title={say`Stands`} places={of("stand")} owner={owner} />
      <Kind kind="hook" title={say`Hooks`} places={of("hook")} owner={owner} />
    </section>
  );
}

function Kind(props: { kind: Place["kind"]; title: string; places: readonly Place[]; owner: boolean }) {
  const { kind, title, places, owner } = props;
  const [name, setName] = useState("");
  const add = useWrite({
    touches: touches.places(),
    send: (called: string, head) =>
      answer(client.POST("/api/v1/places", { ...head, body: { kind, name: called } })),
    onSaved: () => setName(""),
  });
  const use = useWrite({
    touches: touches.places(),
    send: ({ id, version, in_use }: Place, head) =>
      answer(
        client.PATCH("/api/v1/places/{place_id}", {
          params: { path: { place_id: id } },
          ...head,
          body: { version, in_use: !in_use },
        }),
      ),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    add.go(name);
  };
  return (
    <div className="flex flex-col gap-2">
      <h3 className="text-sm font-bold">{title}</h3>
      <ul className="flex flex-wrap gap-2">
        {places.map((p) => (
          <li key={p.id}>
            <Button
              disabled={!owner || use.pending}
              onClick={() => use.go(p)}
              title={p.in_use ? say`Take ${p.name} out of use` : say`Use ${p.name} again`}
              className={p.in_use ? "" : "text-muted line-through"}
            >
              {p.name}
            </Button>
          </li>
        ))}
      </ul>
      <WriteState of={use} />
      {owner && (
        <form onSubmit={submit} className="flex items-start gap-2">
          <TextField
            label={kind === "stand" ? say`Another stand` : say`Another hook`}
            value={name}
            onChange={setName}
            maxLength={40}
            error={add.refused?.for("name")}
          />
          <Button type="submit" className="mt-6" disabled={add.pending || !name.trim()}>
            <Trans>Add</Trans>
          </Button>
        </form>
      )}
      <WriteState of={add} fields={["name"]} />
    </div>
  );
}

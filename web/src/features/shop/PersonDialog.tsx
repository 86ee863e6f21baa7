import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { ToggleGroup } from "radix-ui";
import { type FormEvent, useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { keys, touches } from "@/api/keys";
import { ask } from "@/api/queries";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { PickField, TextField } from "@/ui/Field";
import { IfFailed } from "@/ui/NotYet";
import { useWrite, WriteState } from "@/write/useWrite";
import { ROLES, SKILLS } from "./roles";
import { WeekFields, weekSpans, weekText } from "./WeekFields";

interface PersonDialogProps {
  person: Schemas["Staff"];
  onClose: () => void;
}

/** One of the staff: role, skills, shifts, days away. */
export function PersonDialog({ person, onClose }: PersonDialogProps) {
  const times = useQuery(ask.workTimes(person.id));
  return (
    <Dialog open onOpenChange={onClose} title={person.name}>
      <div className="flex flex-col gap-6">
        <About person={person} />
        <IfFailed of={times} />
        {times.data && <Shifts key={times.data.version} times={times.data} />}
        {times.data && <Away times={times.data} />}
      </div>
    </Dialog>
  );
}

function About({ person }: { person: Schemas["Staff"] }) {
  const [name, setName] = useState(person.name);
  const [role, setRole] = useState(person.role ?? "mechanic");
  const [skills, setSkills] = useState<string[]>([...person.skills]);
  const [password, setPassword] = useState("");
  const save = useWrite({
    touches: touches.shop(),
    send: (body: Omit<Schemas["PatchedStaffChangeRequest"], "version">, head) =>
      answer(
        client.PATCH("/api/v1/shop/staff/{person_id}", {
          params: { path: { person_id: person.id } },
          ...head,
          body: { ...body, version: person.version },
        }),
      ),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    save.go({ name, role, skills, ...(password ? { password } : {}) });
  };
  return (
    <form onSubmit={submit} className="grid grid-cols-2 gap-x-4 gap-y-2">
      <TextField label={say`Name`} value={name} onChange={setName} error={save.refused?.for("name")} />
      <PickField
        label={say`Role`}
        value={role}
        onChange={(value) => setRole(value as typeof role)}
        options={Object.entries(ROLES).map(([value, text]) => ({ value, text }))}
      />
      <div className="col-span-2 flex flex-col gap-1">
        <span className="text-sm font-bold">
          <Trans>Does at the bench; none chosen is the usual</Trans>
        </span>
        <ToggleGroup.Root
          type="multiple"
          aria-label={say`Skills`}
          value={skills}
          onValueChange={setSkills}
          className="flex flex-wrap gap-2"
        >
          {Object.entries(SKILLS).map(([key, text]) => (
            <ToggleGroup.Item
              key={key}
              value={key}
              className="min-h-12 rounded-sm border border-line-strong bg-plate px-3 data-[state=on]:bg-ink data-[state=on]:text-face"
            >
              {text}
            </ToggleGroup.Item>
          ))}
        </ToggleGroup.Root>
      </div>
      <TextField
        label={say`A new password`}
        type="password"
        value={password}
        onChange={setPassword}
        error={save.refused?.for("password")}
        help={say`Empty leaves the old one`}
        autoComplete="new-password"
        className="col-span-2"
      />
      <div className="col-span-2">
        <WriteState of={save} fields={["name", "password"]} />
      </div>
      <div className="col-span-2 flex flex-wrap gap-3">
        <Button type="submit" weight="now" disabled={save.pending}>
          <Trans>Save</Trans>
        </Button>
        <Button disabled={save.pending} onClick={() => save.go({ sign_out: true })}>
          <Trans>Sign out everywhere</Trans>
        </Button>
        {person.second_factor && (
          <Button disabled={save.pending} onClick={() => save.go({ drop_second_factor: true })}>
            <Trans>Ask for no code any more</Trans>
          </Button>
        )}
        <Button
          weight="quiet"
          className="ml-auto"
          disabled={save.pending}
          onClick={() => save.go({ is_active: !person.is_active })}
        >
          {person.is_active ? say`Works here no longer` : say`Works here again`}
        </Button>
      </div>
    </form>
  );
}

function Shifts({ times }: { times: Schemas["WorkTimes"] }) {
  const [week, setWeek] = useState(() => weekText(times.week));
  const spans = weekSpans(week);
  const save = useWrite({
    touches: touches.shop(),
    fills: () => keys.workTimes(times.person),
    send: (body: Schemas["ShiftsSetRequest"], head) =>
      answer(
        client.PUT("/api/v1/staff/{person_id}/times", {
          params: { path: { person_id: times.person } },
          ...head,
          body,
        }),
      ),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (spans) save.go({ version: times.version, week: spans });
  };
  return (
    <form onSubmit={submit} className="flex flex-col gap-1">
      <h3 className="font-bold">
        <Trans>Shifts</Trans>{" "}
        {times.as_open && (
          <span className="text-sm font-normal text-muted">
            <Trans>none said: works while the shop is open</Trans>
          </span>
        )}
      </h3>
      <WeekFields
        text={week}
        disabled={false}
        onChange={setWeek}
        refused={save.refused?.for("starts") ?? save.refused?.for("ends")}
      />
      <WriteState of={save} fields={["starts", "ends"]} />
      <Button type="submit" className="self-start" disabled={save.pending || !spans}>
        <Trans>Save the shifts</Trans>
      </Button>
    </form>
  );
}

function Away({ times }: { times: Schemas["WorkTimes"] }) {
  const [first, setFirst] = useState("");
  const [last, setLast] = useState("");
  const [why, setWhy] = useState("");
  const add = useWrite({
    touches: touches.shop(),
    fills: () => keys.workTimes(times.person),
    send: (body: Schemas["AbsenceRequest"], head) =>
      answer(
        client.POST("/api/v1/staff/{person_id}/absences", {
          params: { path: { person_id: times.person } },
          ...head,
          body,
        }),
      ),
    onSaved: () => {
      setFirst("");
      setLast("");
      setWhy("");
    },
  });
  const end = useWrite({
    touches: touches.shop(),
    fills: () => keys.workTimes(times.person),
    send: (absence_id: string, head) =>
      answer(client.POST("/api/v1/absences/{absence_id}/end", { params: { path: { absence_id } }, ...head })),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    add.go({ first_day: first, last_day: last || first, why });
  };
  return (
    <section className="flex flex-col gap-1">
      <h3 className="font-bold">
        <Trans>Away</Trans>
      </h3>
      <ul>
        {times.absences.map((a) => (
          <li key={a.id} className="flex min-h-12 items-center gap-4 border-t border-line">
            <span className="font-figure">
              {a.first_day === a.last_day ? a.first_day : say`${a.first_day} to ${a.last_day}`}
            </span>
            {a.why}
            <Button weight="quiet" className="ml-auto" disabled={end.pending} onClick={() => end.go(a.id)}>
              <Trans>Is here after all</Trans>
            </Button>
          </li>
        ))}
      </ul>
      <WriteState of={end} />
      <form
        onSubmit={submit}
        className="grid grid-cols-[1fr_1fr_1fr_auto] items-start gap-3 max-sm:grid-cols-1"
      >
        <TextField
          label={say`From`}
          type="date"
          value={first}
          onChange={setFirst}
          error={add.refused?.for("first_day")}
          required
        />
        <TextField
          label={say`To`}
          type="date"
          value={last}
          onChange={setLast}
          error={add.refused?.for("last_day")}
        />
        <TextField label={say`Why`} value={why} onChange={setWhy} maxLength={80} />
        <Button type="submit" className="mt-6" disabled={add.pending || !first}>
          <Trans>Enter</Trans>
        </Button>
      </form>
      <WriteState of={add} fields={["first_day", "last_day"]} />
    </section>
  );
}

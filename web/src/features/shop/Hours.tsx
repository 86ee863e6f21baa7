import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { type FormEvent, useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { keys, touches } from "@/api/keys";
import { Button } from "@/ui/Button";
import { TextField } from "@/ui/Field";
import { useWrite, WriteState } from "@/write/useWrite";
import { WeekFields, weekSpans, weekText } from "./WeekFields";

type Closed = Schemas["ClosedOn"];

interface HoursProps {
  hours: Schemas["Hours"];
  owner: boolean;
  saved: boolean;
  onSaved: (row: Schemas["Hours"]) => void;
}

/** Opening hours, closed days and the time zone that every time is shown in. */
export function Hours({ hours, owner, saved, onSaved }: HoursProps) {
  const [zone, setZone] = useState(hours.time_zone);
  const [week, setWeek] = useState(() => weekText(hours.week));
  const [closed, setClosed] = useState<readonly Closed[]>(hours.closed_days);
  const save = useWrite({
    touches: touches.shop(),
    fills: () => keys.hours(),
    onSaved,
    send: (body: Schemas["HoursSetRequest"], head) =>
      answer(client.PUT("/api/v1/shop/hours", { ...head, body })),
  });
  const spans = weekSpans(week);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (spans)
      save.go({
        version: hours.version,
        time_zone: zone.trim(),
        week: spans,
        closed_days: closed.filter((c) => c.day),
      });
  };
  const change = (i: number, part: Partial<Closed>) =>
    setClosed((all) => all.map((c, k) => (k === i ? { ...c, ...part } : c)));
  return (
    <form onSubmit={submit} className="flex flex-col gap-2">
      <h2>
        <Trans>Opening hours</Trans>
        {hours.usual && (
          <span className="ml-2 text-sm font-normal text-muted">
            <Trans>a usual week, until you say your own</Trans>
          </span>
        )}
      </h2>
      <WeekFields
        text={week}
        disabled={!owner}
        onChange={setWeek}
        refused={save.refused?.for("starts") ?? save.refused?.for("ends")}
      />
      <TextField
        label={say`Time zone`}
        value={zone}
        disabled={!owner}
        onChange={setZone}
        help={say`As in Europe/Lisbon; every time is shown and entered in it`}
        error={save.refused?.for("time_zone")}
      />
      <fieldset className="flex flex-col gap-1">
        <legend className="text-sm font-bold">
          <Trans>Closed days to come</Trans>
        </legend>
        {closed.map((c, i) => (
          <div key={i} className="flex items-start gap-2">
            <TextField
              label={say`Day`}
              type="date"
              value={c.day}
              disabled={!owner}
              onChange={(day) => change(i, { day })}
            />
            <TextField
              label={say`Called`}
              value={c.name}
              maxLength={80}
              disabled={!owner}
              onChange={(name) => change(i, { name })}
              className="flex-1"
            />
            {owner && (
              <Button
                className="mt-6"
                aria-label={say`Open on ${c.day} after all`}
                onClick={() => setClosed((all) => all.filter((_, k) => k !== i))}
              >
                ✕
              </Button>
            )}
          </div>
        ))}
        {owner && (
          <Button
            weight="quiet"
            className="self-start"
            onClick={() => setClosed((all) => [...all, { day: "", name: "" }])}
          >
            <Trans>Another closed day</Trans>
          </Button>
        )}
      </fieldset>
      <WriteState of={save} fields={["starts", "ends", "time_zone"]} />
      {owner && (
        <div>
          <Button type="submit" disabled={save.pending || !spans}>
            <Trans>Save the hours</Trans>
          </Button>
          {(save.saved || saved) && (
            <span className="ml-3 text-muted">
              <Trans>Saved.</Trans>
            </span>
          )}
        </div>
      )}
    </form>
  );
}

import { useWrite, WriteState } from "@/write/useWrite";
import { touches } from "@/api/keys";
import { useQuery } from "@tanstack/react-query";
import { ToggleGroup } from "radix-ui";
import { type FormEvent, useDeferredValue, useState } from "react";
import { useNavigate } from "react-router";
import { answer, client, type Schemas } from "@/api/client";
import { ask } from "@/api/queries";
import { Button } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { PickField, TextField } from "@/ui/Field";
import { Likely } from "./Likely";

type Brake = Schemas["BrakeEnum"];

interface TagsProps {
  label: string;
  value: readonly Schemas["ComplaintTagsEnum"][];
  options: readonly Schemas["Complaint"][];
  onChange: (value: Schemas["ComplaintTagsEnum"][]) => void;
}

/** Quick tags: any of a few, each a key that stays pressed. */
function Tags({ label, value, options, onChange }: TagsProps) {
  return (
    <ToggleGroup.Root
      type="multiple"
      aria-label={label}
      value={[...value]}
      onValueChange={(next) => onChange(next as Schemas["ComplaintTagsEnum"][])}
      className="flex flex-wrap gap-2"
    >
      {options.map((option) => (
        <ToggleGroup.Item
          key={option.key}
          value={option.key}
          className="min-h-12 rounded-sm border border-line-strong bg-plate px-3 data-[state=on]:bg-ink data-[state=on]:font-bold data-[state=on]:text-face"
        >
          {option.name}
        </ToggleGroup.Item>
      ))}
    </ToggleGroup.Root>
  );
}

/** Take in: whose bike, which wheel, what is wrong, wanted by when. */
export default function TakeIn() {
  const navigate = useNavigate();
  const kinds = useQuery(ask.kinds());
  const [search, setSearch] = useState("");
  const found = useQuery({ ...ask.customers(useDeferredValue(search)), placeholderData: (old) => old });
  const [customer, setCustomer] = useState<Schemas["Customer"] | null>(null);
  const [phone, setPhone] = useState("");
  const [bikeId, setBikeId] = useState("");
  const [bikeLabel, setBikeLabel] = useState("");
  const [brake, setBrake] = useState<Brake>("rim");
  const [use, setUse] = useState<Schemas["BikeUseEnum"]>("everyday");
  const [axle, setAxle] = useState<Schemas["AxleEnum"] | "">("");
  const [wheelId, setWheelId] = useState("");
  const [position, setPosition] = useState<"front" | "rear">("rear");
  const [kind, setKind] = useState("rim-brake-rear-36");
  const [complaint, setComplaint] = useState("");
  const [tags, setTags] = useState<Schemas["ComplaintTagsEnum"][]>([]);
  const trade = useQuery(ask.trade());
  const [promised, setPromised] = useState("");
  const [load, setLoad] = useState("");
  const [came, setCame] = useState<"bike" | "wheel">("bike");
  const seen = useQuery(ask.bikeWheels(bikeId));
  const wheels = bikeId ? (seen.data ?? []) : [];

  const open = useWrite({
    touches: touches.newJob(),
    send: (_: void, head) => {
      const specification = kinds.data?.find((k) => k.key === kind)?.specification;
      const body: Schemas["JobOpenRequest"] = {
        complaint,
        complaint_tags: tags,
        promised_at: promised ? new Date(promised).toISOString() : null,
        load_kg: load.trim() ? Number(load) : null,
        with_bike: came === "bike",
      };
      if (wheelId) body.wheel_id = wheelId;
      else if (specification) body.wheel = { position, kind, specification };
      if (!wheelId && bikeId) body.bike_id = bikeId;
      else if (!wheelId) {
        body.bike = { label: bikeLabel, brake, use, axle };
        if (customer) body.customer_id = customer.id;
        else body.customer = { name: search.trim(), phone };
      }
      return answer(client.POST("/api/v1/jobs", { ...head, body }));
    },
    onSaved: async (job) => {
      await navigate(`/jobs/${job.id}`);
    },
  });
  const wheelBrake = customer?.bikes.find((b) => b.id === bikeId)?.brake ?? brake;
  const error = open.refused;
  const pick = (c: Schemas["Customer"]) => {
    setCustomer(c);
    setSearch(c.name);
    setBikeId(c.bikes[0]?.id ?? "");
    setWheelId("");
  };
  const submit = (event: FormEvent) => {
    event.preventDefault();
    open.go();
  };

  return (
    <main className="mx-auto w-full max-w-5xl p-4">
      <h1 className="mb-3">Take in a wheel</h1>
      <form onSubmit={submit} className="grid grid-cols-2 gap-x-8 gap-y-4">
        <fieldset className="flex flex-col gap-3">
          <legend className="mb-1 text-lg font-bold">Whose</legend>
          <TextField
            label="Customer"
            help={
              customer ? "Known here" : search ? "New, unless you choose one below" : "Name, phone or bike"
            }
            value={search}
            onChange={(text) => {
              setSearch(text);
              setCustomer(null);
              setBikeId("");
              setWheelId("");
            }}
            error={error?.for("customer") ?? error?.for("name")}
            autoFocus
            required
          />
          {!customer && search && (
            <ul className="flex flex-wrap gap-2" aria-label="Customers found">
              {(found.data ?? []).slice(0, 5).map((c) => (
                <li key={c.id}>
                  <Button onClick={() => pick(c)}>{c.name}</Button>
                </li>
              ))}
            </ul>
          )}
          {!customer && (
            <TextField
              label="Phone"
              value={phone}
              onChange={setPhone}
              inputMode="tel"
              error={error?.for("phone")}
            />
          )}
          {customer && (
            <PickField
              label="Bike"
              value={bikeId}
              onChange={(id) => {
                setBikeId(id);
                setWheelId("");
              }}
              options={[
                ...customer.bikes.map((b) => ({ value: b.id, text: b.label })),
                { value: "", text: "another bike" },
              ]}
            />
          )}
          {!bikeId && (
            <>
              <TextField
                label="Which bike"
                help="As the shop would call it: green ferry commuter"
                value={bikeLabel}
                onChange={setBikeLabel}
                error={error?.for("label") ?? error?.for("bike")}
                required
              />
              <Choice<Brake>
                label="Brake"
                value={brake}
                onChange={setBrake}
                options={[
                  { value: "rim", text: "rim brake" },
                  { value: "disc", text: "disc brake" },
                  { value: "hub", text: "hub brake" },
                ]}
              />
              <div className="flex gap-3">
                <PickField
                  label="Use"
                  value={use}
                  onChange={(u) => setUse(u as typeof use)}
                  options={[
                    { value: "everyday", text: "everyday" },
                    { value: "sport", text: "sport" },
                    { value: "tandem", text: "tandem" },
                    { value: "cargo", text: "cargo or electric" },
                    { value: "track", text: "track" },
                  ]}
                  className="flex-1"
                />
                <PickField
                  label="Axle"
                  value={axle}
                  onChange={(a) => setAxle(a as typeof axle)}
                  options={[
                    { value: "", text: "not noted" },
                    { value: "quick", text: "quick-release" },
                    { value: "nuts", text: "nuts" },
                    { value: "through", text: "through-axle" },
                  ]}
                  className="flex-1"
                />
              </div>
            </>
          )}
        </fieldset>
        <fieldset className="flex flex-col gap-3">
          <legend className="mb-1 text-lg font-bold">Which wheel, and what is wrong</legend>
          {wheels.length > 0 && (
            <PickField
              label="Seen before"
              value={wheelId}
              onChange={setWheelId}
              options={[
                ...wheels.map((w) => ({
                  value: w.id,
                  text: `${w.position} wheel, ${w.derived.spokes.length} spokes`,
                })),
                { value: "", text: "another wheel" },
              ]}
              help="A wheel seen before keeps its dimensions and its history."
            />
          )}
          {!wheelId && (
            <div className="flex items-end gap-3">
              <Choice
                label="Position"
                value={position}
                onChange={setPosition}
                options={[
                  { value: "front", text: "front" },
                  { value: "rear", text: "rear" },
                ]}
                className="mb-6 self-end"
              />
              <PickField
                label="Starts as"
                value={kind}
                onChange={setKind}
                options={(kinds.data ?? []).map((k) => ({ value: k.key, text: k.name }))}
                className="flex-1"
              />
            </div>
          )}
          <TextField
            label="What is wrong, in the customer's words"
            value={complaint}
            onChange={setComplaint}
            error={error?.for("complaint")}
            required
          />
          <Tags label="In short" value={tags} options={trade.data?.complaints ?? []} onChange={setTags} />
          <div className="flex items-start gap-3">
            <TextField
              label="Wanted by"
              type="datetime-local"
              value={promised}
              onChange={setPromised}
              error={error?.for("promised_at")}
              className="flex-1"
            />
            <TextField
              label="Load, kg"
              inputMode="numeric"
              value={load}
              onChange={setLoad}
              error={error?.for("load_kg")}
              title="Rider and luggage, about"
              className="w-24"
            />
            <Choice
              label="What came in"
              value={came}
              onChange={setCame}
              small
              options={[
                { value: "bike", text: "bike" },
                { value: "wheel", text: "wheel" },
              ]}
              className="mt-6"
            />
          </div>
          <Likely tags={tags} wheelId={wheelId} brake={wheelBrake} position={position} />
          <WriteState of={open} />
          <Button type="submit" weight="now" disabled={open.pending || !kinds.data}>
            Open the job
          </Button>
        </fieldset>
      </form>
    </main>
  );
}

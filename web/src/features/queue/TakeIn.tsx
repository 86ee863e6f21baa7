import { CUSTOMER_FIELDS } from "../customers/fields";
import { word } from "@/ui/words";
import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { zodResolver } from "@hookform/resolvers/zod";
import { useForm, useWatch } from "react-hook-form";
import { fieldsOf, toFirstWrong } from "@/ui/form";
import { IfFailed } from "@/ui/NotYet";
import { EMPTY, jobOf, kindsFor, LOAD, NEW, type TakeInForm, takeInSchema } from "./takeInForm";
import { NumberField } from "@/ui/NumberField";
import { useWrite, WriteState } from "@/write/useWrite";
import { touches } from "@/api/keys";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useDeferredValue, useEffect, useMemo, useRef, useState } from "react";
import { useNavigate } from "react-router";
import { answer, client, type Schemas } from "@/api/client";
import { ask } from "@/api/queries";
import { Button } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { PickField, TextField } from "@/ui/Field";
import { Likely } from "./Likely";
import { Tags } from "./Tags";
import { TakeInDates } from "./TakeInDates";

/** Take in: whose bike, which wheel, what is wrong, wanted by when. */
export default function TakeIn() {
  const navigate = useNavigate();
  const kinds = useQuery(ask.kinds());
  const trade = useQuery(ask.trade());
  const form = useForm<TakeInForm>({ resolver: zodResolver(takeInSchema), defaultValues: EMPTY });
  const said = useWatch({ control: form.control }) as TakeInForm;
  const found = useQuery({
    ...ask.customers(useDeferredValue(said.customer)),
    placeholderData: (old) => old,
  });
  const [customer, setCustomer] = useState<Schemas["Customer"] | null>(null);
  const seen = useQuery(ask.bikeWheels(said.bikeId));
  const wheels = useMemo(() => (said.bikeId ? (seen.data ?? []) : []), [said.bikeId, seen.data]);
  const newWheel = wheels.length === 0 || said.wheelId === NEW;
  const open = useWrite({
    touches: touches.newJob(),
    send: ({ second, ...whole }: TakeInForm & { second: boolean }, head) => {
      const specification = kinds.data?.find((k) => k.key === whole.kind)?.specification;
      return answer(client.POST("/api/v1/jobs", { ...head, body: jobOf(whole, specification, second) }));
    },
    onSaved: async (job) => {
      await navigate(`/jobs/${job.id}`);
    },
  });
  const field = fieldsOf(form, said, open.refused);
  const wheelBrake = customer?.bikes.find((b) => b.id === said.bikeId)?.brake ?? said.brake;
  const fitting = kindsFor(kinds.data ?? [], said.position, wheelBrake);
  // A kind of another place or brake is none; the only one that fits needs no choice.
  useEffect(() => {
    if (!fitting.some((k) => k.key === said.kind))
      form.setValue("kind", fitting.length === 1 ? (fitting[0]?.key ?? "") : "");
  });
  useEffect(() => {
    form.setValue("wheelsSeen", wheels.length > 0);
    const [only] = wheels;
    // A wheel seen before comes first; of several nobody guesses.
    if (only && wheels.length === 1 && form.getValues("wheelId") === "") form.setValue("wheelId", only.id);
  }, [wheels, form]);
  const bikeField = useRef<HTMLDivElement>(null);
  const [chose, setChose] = useState(0);
  // The button that was pressed is gone: its choice goes on at the bike.
  useEffect(() => {
    if (chose) bikeField.current?.querySelector<HTMLElement>("select, input, button")?.focus();
  }, [chose]);
  const known = (c: Schemas["Customer"] | null, name: string, bikeId: string) => {
    setCustomer(c);
    form.setValue("customerId", c?.id ?? "");
    form.setValue("customer", name, { shouldValidate: form.formState.isSubmitted });
    form.setValue("bikeId", bikeId);
    form.setValue("wheelId", "");
  };
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const fields = event.currentTarget;
    void form.handleSubmit(
      (whole) => open.go({ ...whole, second: false }),
      () => toFirstWrong(fields),
    )();
  };

  return (
    <main className="mx-auto w-full max-w-5xl p-4">
      <h1 className="mb-3">
        <Trans>Take in a wheel</Trans>
      </h1>
      <form noValidate onSubmit={submit} className="grid gap-x-8 gap-y-4 md:grid-cols-2">
        <fieldset className="flex min-w-0 flex-col gap-3">
          <legend className="mb-1 text-lg font-bold">
            <Trans>Whose</Trans>
          </legend>
          <TextField
            label={say`Customer`}
            help={
              customer
                ? say`Known here`
                : said.customer
                  ? say`New, unless you choose one below`
                  : say`Name, phone or bike`
            }
            {...field("customer", "name")}
            onChange={(text) => known(null, text, "")}
            autoFocus
            required
          />
          <IfFailed of={found} />
          {!customer && said.customer && (
            <ul className="flex flex-wrap gap-2" aria-label={say`Customers found`}>
              {(found.data ?? []).slice(0, 5).map((c) => (
                <li key={c.id}>
                  <Button
                    onClick={() => {
                      known(c, c.name, c.bikes.length === 1 ? (c.bikes[0]?.id ?? "") : "");
                      setChose((n) => n + 1);
                    }}
                  >
                    {c.name}
                  </Button>
                </li>
              ))}
            </ul>
          )}
          {!customer &&
            CUSTOMER_FIELDS.map(({ name, ...shown }) => (
              <TextField
                key={name}
                {...shown}
                value={said.about[name] ?? ""}
                onChange={(text) => form.setValue("about", { ...form.getValues("about"), [name]: text })}
                error={open.refused?.for(`customer.${name}`)}
              />
            ))}
          {customer && (
            <div ref={bikeField}>
              <PickField
                label={say`Bike`}
                {...field("bikeId")}
                onChange={(id) => known(customer, customer.name, id)}
                options={[
                  ...customer.bikes.map((b) => ({ value: b.id, text: b.label })),
                  { value: "", text: say`another bike` },
                ]}
              />
            </div>
          )}
          {!said.bikeId && (
            <>
              <TextField
                label={say`Which bike`}
                help={say`As the shop would call it: green ferry commuter`}
                {...field("bikeLabel", "label", "bike")}
                required
              />
              <Choice
                label={say`Brake`}
                {...bare(field("brake"))}
                options={[
                  { value: "rim", text: say`rim brake` },
                  { value: "disc", text: say`disc brake` },
                  { value: "hub", text: say`hub brake` },
                ]}
              />
              <div className="flex gap-3">
                <PickField
                  label={say`Use`}
                  {...field("use")}
                  onChange={(v) => form.setValue("use", v as TakeInForm["use"])}
                  options={[
                    { value: "everyday", text: say`everyday` },
                    { value: "sport", text: say`sport` },
                    { value: "tandem", text: say`tandem` },
                    { value: "cargo", text: say`cargo or electric` },
                    { value: "track", text: say`track` },
                  ]}
                  className="flex-1"
                />
                <PickField
                  label={say`Axle`}
                  {...field("axle")}
                  onChange={(v) => form.setValue("axle", v as TakeInForm["axle"])}
                  options={[
                    { value: "", text: say`not noted` },
                    { value: "quick", text: say`quick-release` },
                    { value: "nuts", text: say`nuts` },
                    { value: "through", text: say`through-axle` },
                  ]}
                  className="flex-1"
                />
              </div>
            </>
          )}
        </fieldset>
        <fieldset className="flex min-w-0 flex-col gap-3">
          <legend className="mb-1 text-lg font-bold">
            <Trans>Which wheel, and what is wrong</Trans>
          </legend>
          {wheels.length > 0 && (
            <PickField
              label={say`Seen before`}
              {...field("wheelId")}
              options={[
                ...(said.wheelId ? [] : [{ value: "", text: say`say which` }]),
                ...wheels.map((w) => ({
                  value: w.id,
                  text: say`${word(w.position)} wheel, ${w.derived.spokes.length} spokes`,
                })),
                { value: NEW, text: say`another wheel` },
              ]}
              help={say`A wheel seen before keeps its dimensions and its history.`}
            />
          )}
          {newWheel && (
            <div className="flex flex-wrap items-end gap-3">
              <Choice
                label={say`Position`}
                {...bare(field("position"))}
                options={[
                  { value: "front", text: say`front` },
                  { value: "rear", text: say`rear` },
                ]}
                className="mb-6 self-end"
              />
              <PickField
                label={say`Starts as`}
                {...field("kind")}
                options={[
                  ...(said.kind ? [] : [{ value: "", text: say`choose` }]),
                  ...fitting.map((k) => ({ value: k.key, text: k.name })),
                ]}
                className="min-w-40 flex-1"
              />
            </div>
          )}
          <TextField label={say`What is wrong, in the customer's words`} {...field("complaint")} required />
          <Tags
            label={say`In short`}
            options={trade.data?.complaints ?? []}
            {...bare(field("tags", "complaint_tags"))}
          />
          <div className="flex flex-wrap items-start gap-3">
            <TextField
              label={say`Wanted by`}
              type="datetime-local"
              {...field("wanted", "wanted_at")}
              className="flex-1"
            />
            <NumberField
              label={say`Load, kg`}
              {...LOAD}
              {...field("load", "load_kg")}
              title={say`Rider and luggage, about`}
              className="w-32"
            />
            <Choice
              label={say`What came in`}
              {...bare(field("came", "with_bike"))}
              small
              options={[
                { value: "bike", text: say`bike` },
                { value: "wheel", text: say`wheel` },
              ]}
              className="mt-6"
            />
          </div>
          <TakeInDates
            wheelId={said.wheelId === NEW ? "" : said.wheelId}
            kind={kinds.data?.find((k) => k.key === said.kind)}
            wanted={said.wanted}
            chosen={said.promised}
            onChoose={(iso) => form.setValue("promised", iso)}
            error={open.refused?.for("promised_at")}
          />
          <Likely
            tags={said.tags}
            wheelId={said.wheelId === NEW ? "" : said.wheelId}
            brake={wheelBrake}
            position={said.position}
          />
          <IfFailed of={kinds} />
          <IfFailed of={trade} />
          <IfFailed of={seen} />
          <WriteState of={open} />
          {open.refused?.code === "already_open" && open.asked && (
            <Button onClick={() => open.asked && open.go({ ...open.asked, second: true })}>
              <Trans>Open a second job on this wheel</Trans>
            </Button>
          )}
          <Button
            type="submit"
            weight="now"
            className="sticky bottom-2 z-10"
            disabled={open.pending || !kinds.data}
          >
            <Trans>Open the job</Trans>
          </Button>
        </fieldset>
      </form>
    </main>
  );
}

/** A choice has no room for an error of its own. */
function bare<T>({ value, onChange }: { value: T; onChange: (value: T) => void; error?: unknown }) {
  return { value, onChange };
}

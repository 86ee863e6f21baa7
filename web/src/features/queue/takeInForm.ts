import { t as say } from "@lingui/core/macro";
import { z } from "@/ui/zod";
import type { Schemas } from "@/api/client";
import { CUSTOMER_FIELDS } from "../customers/fields";
import { fromLocalInput } from "@/ui/when";
import { typedNumber, wrongIn } from "@/ui/number";

/** Another wheel than those seen before. */
export const NEW = "new";

export const LOAD = { min: 20, max: 400, unit: "kg", whole: true };

/** What is said at the counter, as it stands in the fields. A known wheel needs no bike, a known bike no customer. */
export const takeInSchema = z
  .object({
    customerId: z.string(),
    customer: z.string().trim(),
    about: z.partialRecord(z.enum(CUSTOMER_FIELDS.map((f) => f.name)), z.string().trim()),
    bikeId: z.string(),
    bikeLabel: z.string().trim(),
    brake: z.enum(["rim", "disc", "hub"]),
    use: z.enum(["everyday", "sport", "tandem", "cargo", "track"]),
    axle: z.enum(["", "quick", "nuts", "through"]),
    /** A wheel seen before, NEW for another one; empty while nobody has said. */
    wheelId: z.string(),
    /** Whether wheels of the bike were seen before, so that it has to be said. */
    wheelsSeen: z.boolean(),
    position: z.enum(["front", "rear"]),
    kind: z.string(),
    complaint: z
      .string()
      .trim()
      .min(1, say`Say what is wrong, in the customer's words.`),
    tags: z.array(z.custom<Schemas["ComplaintTagsEnum"]>()),
    wanted: z.string(),
    /** One of the offered dates, as a moment; empty while none is promised. */
    promised: z.string(),
    load: z.string(),
    came: z.enum(["bike", "wheel"]),
  })
  .superRefine((said, context) => {
    const at = (path: string, message: string) => context.addIssue({ code: "custom", path: [path], message });
    if (!said.customerId && !said.customer) at("customer", say`Say whose bike it is.`);
    if (!said.bikeId && !said.bikeLabel) at("bikeLabel", say`Say which bike the wheel belongs to.`);
    if (said.bikeId && said.wheelsSeen && !said.wheelId)
      at("wheelId", say`Say which wheel it is: one seen before, or another.`);
    if ((!said.wheelId || said.wheelId === NEW) && !said.kind)
      at("kind", say`Choose what the wheel starts as.`);
    const wrong = wrongIn(said.load, LOAD);
    if (wrong) at("load", wrong);
  });

export type TakeInForm = z.infer<typeof takeInSchema>;

export const EMPTY: TakeInForm = {
  customerId: "",
  customer: "",
  about: {},
  bikeId: "",
  bikeLabel: "",
  brake: "rim",
  use: "everyday",
  axle: "",
  wheelId: "",
  wheelsSeen: false,
  position: "rear",
  kind: "",
  complaint: "",
  tags: [],
  wanted: "",
  promised: "",
  load: "",
  came: "bike",
};

/** What the server is asked: a known wheel, else a new one of a known bike, else everything new. */
export function jobOf(
  said: TakeInForm,
  specification: Schemas["Specification"] | undefined,
  second = false,
): Schemas["JobOpenRequest"] {
  const body: Schemas["JobOpenRequest"] = {
    complaint: said.complaint,
    complaint_tags: said.tags,
    wanted_at: fromLocalInput(said.wanted),
    promised_at: said.promised || null,
    load_kg: typedNumber(said.load),
    with_bike: said.came === "bike",
  };
  if (said.wheelId && said.wheelId !== NEW) return { ...body, wheel_id: said.wheelId, second };
  if (specification) body.wheel = { position: said.position, kind: said.kind, specification };
  if (said.bikeId) return { ...body, bike_id: said.bikeId };
  body.bike = { label: said.bikeLabel, brake: said.brake, use: said.use, axle: said.axle };
  if (said.customerId) return { ...body, customer_id: said.customerId };
  return { ...body, customer: { name: said.customer, ...said.about } };
}

/** The kinds that fit the end of the bike and its brake. */
export function kindsFor(
  kinds: readonly Schemas["WheelKind"][],
  position: string,
  brake: string,
): readonly Schemas["WheelKind"][] {
  return kinds.filter(
    (k) => k.position === position && (k.brakes.length === 0 || !brake || k.brakes.includes(brake)),
  );
}

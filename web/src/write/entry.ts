import type { DeedName } from "./deeds";

/** One thing done at the bench, on its way to the server. It belongs to who did it. */
export interface Entry {
  /** Place in the queue; below 0 while the tablet has not kept it. */
  seq: number;
  /** Idempotency-Key: the same for every try. */
  key: string;
  by: string;
  byName: string;
  deed: DeedName;
  target: Readonly<Record<string, string>>;
  body: unknown;
  at: string;
  /** The screen it was done on, to go back to. */
  href: string;
  state: "waiting" | "refused";
  refusal?: { code: string; message: string };
  /** How often something answered that it could not be done just now. */
  stumbles: number;
}

/** Whose key signed a file, as far as this page can know. What it cannot know is said as unsure. */
import type { Look } from "@/verify/look";

export interface Known {
  shop: string;
  keys: { key: string; since: string; ended_at: string | null; ended_as: string }[];
}

export type Verdict =
  | "changed"
  | "unsigned"
  /** Whole, by a key that this page knows as the shop's, or that one of those vouches for. */
  | "genuine"
  /** Whole, and this page knows no keys: the digits must be compared. */
  | "compare"
  /** Whole, by a key that is none of the shop's. */
  | "strange"
  /** Whole, by a key of the shop that others had, or dated after it was given up. */
  | "unsure";

/** Clocks of a shop may differ by this much. */
const SLACK_MS = 24 * 3600 * 1000;

export function verdict(seen: Look, known: Known | null): Verdict {
  if (seen.found !== "whole") return seen.found;
  if (!known?.keys.length) return "compare";
  const byKey = new Map(known.keys.map((key) => [key.key, key]));
  const line = [seen.statement.key, ...seen.ancestors];
  const first = line.map((key) => byKey.get(key)).find((key) => key !== undefined);
  if (!first) return "strange";
  // A key in other hands signs and vouches for whatever those like, with any date.
  if (first.ended_as === "stolen") return "unsure";
  const itself = first.key === seen.statement.key;
  if (!itself) return "genuine";
  const signed = Date.parse(seen.statement.signed_at);
  const late = first.ended_at !== null && signed > Date.parse(first.ended_at) + SLACK_MS;
  const early = signed < Date.parse(first.since) - SLACK_MS;
  return late || early ? "unsure" : "genuine";
}

/**
 * The cache key of every question, and what a write makes stale. Keys nest: what belongs to a job begins with that job, so
 * that one word is enough to ask all of it anew. Only what a screen shows just now is asked again.
 */
export type Key = readonly unknown[];

export const keys = {
  session: (): Key => ["session"],
  account: (): Key => ["account"],
  customerSent: (id: string): Key => ["customer", id, "sent"],
  staff: (): Key => ["staff"],
  trade: (): Key => ["trade"],
  kinds: (): Key => ["kinds"],
  planModes: (): Key => ["plan-modes"],
  /** Asked anew whenever any job changes: they say how their wheels stand. */
  practice: (): Key => ["practice"],
  practiceRun: (id: string): Key => ["practice", "run", id],
  practiceState: (id: string, version: number): Key => ["practice", "state", id, version],
  practiceLesson: (key: string): Key => ["lesson", key],
  learners: (): Key => ["practice", "learners"],
  lots: (): Key => ["fleet"],
  lot: (id: string): Key => ["fleet", id],
  letters: (): Key => ["letters"],
  prices: (): Key => ["prices"],
  rules: (): Key => ["rules"],
  rail: (): Key => ["rail"],
  /** Asked anew with the rail: a hit says how its job stands. */
  find: (text: string): Key => ["rail", "find", text],
  offers: (of: unknown): Key => ["rail", "offers", of],
  places: (): Key => ["places"],
  tiers: (): Key => ["tiers"],
  hours: (): Key => ["shop", "hours"],
  shop: (): Key => ["shop", "settings"],
  signing: (): Key => ["signing"],
  backups: (): Key => ["backups"],
  feed: (): Key => ["feed"],
  patterns: (): Key => ["patterns"],
  consents: (id: string): Key => ["customers", "consents", id],
  erasure: (id: string): Key => ["customers", "erasure", id],
  /** Asked anew with the rail, as nearly every change is told to it. */
  changes: (of: string, row = ""): Key => ["rail", "changes", of, row],
  /** Asked anew with the rail: whatever changes a job changes its wheel's history. */
  wheelHistory: (id: string): Key => ["rail", "wheel", id],
  allStaff: (): Key => ["staff", "all"],
  workTimes: (id: string): Key => ["staff", "times", id],
  customer: (id: string): Key => ["customers", "one", id],
  /** Asked anew with the rail. */
  unsafe: (): Key => ["rail", "unsafe"],
  customers: (search = ""): Key => (search ? ["customers", search] : ["customers"]),
  bike: (id: string, part: "wheels" | "spares"): Key => ["bike", id, part],
  instruments: (): Key => ["instruments"],
  meters: (): Key => ["instruments", "meters"],
  live: (id: string, spoke: string): Key => ["live", id, spoke],
  stock: (): Key => ["stock"],
  ledger: (part_id: string): Key => ["stock", "ledger", part_id],
  orders: (): Key => ["stock", "orders"],
  job: (id: string): Key => ["job", id],
  ofJob: (id: string, part: JobPart, ...more: unknown[]): Key => ["job", id, part, ...more],
  set: (id: string): Key => ["set", id],
  ofSet: (id: string, part: SetPart, ...more: unknown[]): Key => ["set", id, part, ...more],
  plan: (id: string): Key => ["plan", id],
  /** Asked once when a plan is opened, not with each of its ticks. */
  underway: (key: string): Key => ["underway", key],
  resume: (id: string): Key => ["resume", id],
  livePass: (id: string): Key => ["plan", id, "live"],
  /** A sum worked out for a form: never stale, never kept for anybody else. */
  sum: (what: string, ...of: unknown[]): Key => ["sum", what, ...of],
} as const;

type JobPart =
  | "head"
  | "events"
  | "sets"
  | "plans"
  | "diagnosis"
  | "comparison"
  | "comeback"
  | "requirements"
  | "ends"
  | "condition"
  | "options"
  | "quote"
  | "account"
  | "links"
  | "letter"
  | "refit"
  | "photos"
  | "tag"
  | "sizing"
  | "lacing"
  | "strip"
  | "replacing"
  | "swap"
  | "old-spokes"
  | "work"
  | "offers"
  | "look";

type SetPart =
  | "readings"
  | "state"
  | "advice"
  | "dish-options"
  | "verdict"
  | "pass"
  | "laps"
  | "what-if"
  | "trade-off"
  | "left-alone";

/** What a write touches; everything under these keys is asked anew once it has succeeded. */
export const touches = {
  job: (id: string): Key[] => [keys.job(id), ["set"], ["plan"], keys.rail(), keys.lots()],
  newJob: (): Key[] => [keys.rail(), keys.customers(), ["bike"]],
  stock: (): Key[] => [keys.stock(), ["job"], keys.rail()],
  instruments: (): Key[] => [keys.instruments(), ["set"]],
  /** Hours, shifts and settings move every promise's chance. */
  shop: (): Key[] => [["shop"], keys.session(), keys.rail(), ["staff"], ["job"]],
  places: (): Key[] => [keys.places(), keys.rail(), ["job"]],
  signing: (): Key[] => [keys.signing()],
  tiers: (): Key[] => [keys.tiers(), keys.trade(), ["job"], ["set"]],
  customer: (): Key[] => [keys.customers(), keys.rail(), ["job"]],
  rules: (): Key[] => [keys.rules(), ["job"]],
  prices: (): Key[] => [keys.prices(), ["job"]],
  session: (): Key[] => [keys.session()],
  everything: (): Key[] => [[]],
} as const;

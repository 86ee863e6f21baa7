import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { down, says, type Sent, server, storage, stubTablet } from "@/testing/tablet";

const refusal = (title: string) => ({ title, detail: `It says ${title}.`, errors: [] });
const saved = (spoke: string) => says(201, { id: spoke, spoke, value: 900, entered: { value: 900 } });
const reading = (spoke: string, value: number) => ({
  kind: "tension" as const,
  spoke,
  value,
  unit: "N" as const,
});

type Outbox = typeof import("./outbox");

/** The module as a page that has just been opened has it. */
async function opened(kept = storage(), user = "bram"): Promise<Outbox & { heard: Map<string, () => void> }> {
  const heard = stubTablet(kept);
  vi.resetModules();
  const outbox = await import("./outbox");
  if (user) outbox.sendAs(user);
  return { ...outbox, heard };
}

const later = (ms: number) => vi.advanceTimersByTimeAsync(ms);
const spokes = (sent: Sent[]) => sent.map((s) => s.body["spoke"]);

beforeEach(() => {
  vi.useFakeTimers();
});
afterEach(() => {
  vi.useRealTimers();
});

describe("a reading that is entered", () => {
  it("is kept on the tablet before it is sent, and dropped when the server has it", async () => {
    const kept = storage();
    const sent = server(saved("R1"));
    const { enter, onSaved } = await opened(kept);
    const told: string[] = [];
    onSaved((setId, r) => told.push(`${setId} ${r.spoke}`));
    enter("set", reading("R1", 900));
    expect(kept.kept.size).toBe(1);
    await later(0);
    expect(kept.kept.size).toBe(0);
    expect(told).toEqual(["set R1"]);
    expect(sent).toHaveLength(1);
    expect(sent[0]).toMatchObject({
      url: "/api/v1/reading-sets/set/readings",
      csrf: "abc=",
      body: { spoke: "R1", value: 900, unit: "N" },
    });
    expect(sent[0]?.key).toMatch(/^[0-9a-f]{32}$/);
  });

  it("is sent in the order of entry, each with a key of its own", async () => {
    const sent = server(saved("R1"));
    const { enter } = await opened();
    for (const n of [1, 2, 3, 4]) enter("set", reading(`R${n}`, 900 + n));
    await later(0);
    expect(spokes(sent)).toEqual(["R1", "R2", "R3", "R4"]);
    expect(new Set(sent.map((s) => s.key)).size).toBe(4);
  });

  it("is entered all the same when the tablet's storage is full", async () => {
    const kept = storage();
    kept.setItem = () => {
      throw new DOMException("full", "QuotaExceededError");
    };
    const sent = server(saved("R1"));
    const { enter } = await opened(kept);
    enter("set", reading("R1", 900));
    await later(0);
    expect(spokes(sent)).toEqual(["R1"]);
  });
});

describe("a network that is away", () => {
  it("is tried again, later and later, with the same key, and loses nothing", async () => {
    const kept = storage();
    const sent = server(down, down, down, saved("R1"));
    const { enter } = await opened(kept);
    enter("set", reading("R1", 900));
    enter("set", reading("R2", 910));
    await later(0);
    expect(sent).toHaveLength(1);
    await later(999);
    expect(sent).toHaveLength(1);
    await later(1);
    expect(sent).toHaveLength(2);
    await later(2000);
    expect(sent).toHaveLength(3);
    expect(kept.kept.size).toBe(2);
    await later(4000);
    expect(spokes(sent)).toEqual(["R1", "R1", "R1", "R1", "R2"]);
    expect(new Set(sent.slice(0, 4).map((s) => s.key)).size).toBe(1);
    expect(kept.kept.size).toBe(0);
  });

  it("waits 15 seconds at most", async () => {
    const sent = server(down);
    const { enter } = await opened();
    enter("set", reading("R1", 900));
    await later(60_000);
    const before = sent.length;
    await later(15_000);
    expect(sent.length).toBe(before + 1);
  });

  it("is used at once when the tablet hears that it is back", async () => {
    const sent = server(down, saved("R1"));
    const { enter, heard } = await opened();
    enter("set", reading("R1", 900));
    await later(10);
    heard.get("online")?.();
    await later(0);
    expect(sent).toHaveLength(2);
  });

  it("may also be a server that is ill or a session that has ended: both are waited for", async () => {
    const kept = storage();
    const sent = server(says(503, refusal("unavailable")), says(403, refusal("not signed in")), saved("R1"));
    const { enter } = await opened(kept);
    enter("set", reading("R1", 900));
    await later(0);
    expect(kept.kept.size).toBe(1);
    await later(1000);
    expect(kept.kept.size).toBe(1);
    await later(2000);
    expect(sent).toHaveLength(3);
    expect(kept.kept.size).toBe(0);
  });
});

describe("a reading that the server refuses", () => {
  it("is not sent again, and those behind it go on", async () => {
    const kept = storage();
    const sent = server(says(422, refusal("outside table")), saved("R2"));
    const { enter, onSaved } = await opened(kept);
    const told: (string | undefined)[] = [];
    onSaved((_, r) => told.push(r.spoke));
    enter("set", reading("R1", 9));
    enter("set", reading("R2", 900));
    await later(60_000);
    expect(spokes(sent)).toEqual(["R1", "R2"]);
    expect(told).toEqual(["R2"]);
    expect(kept.kept.size).toBe(0);
  });
});

describe("a tablet that was shut", () => {
  const waiting = (spoke: string, user: string, slot: string) => ({
    [slot]: JSON.stringify({
      slot,
      key: `key-${spoke}`,
      setId: "set",
      userId: user,
      body: reading(spoke, 900),
    }),
  });

  it("sends what it kept, oldest first, under the same keys", async () => {
    const kept = storage({
      ...waiting("R2", "bram", "felloe.outbox.000000000000002.000001"),
      ...waiting("R1", "bram", "felloe.outbox.000000000000001.000009"),
      "felloe.sound": "tick",
    });
    const sent = server(saved("R1"));
    await opened(kept);
    await later(0);
    expect(spokes(sent)).toEqual(["R1", "R2"]);
    expect(sent.map((s) => s.key)).toEqual(["key-R1", "key-R2"]);
    expect([...kept.kept.keys()]).toEqual(["felloe.sound"]);
  });

  it("never sends one person's readings in another's name", async () => {
    const kept = storage({
      ...waiting("R1", "odile", "felloe.outbox.000000000000001.000001"),
      ...waiting("R2", "bram", "felloe.outbox.000000000000002.000001"),
    });
    const sent = server(saved("R2"));
    const { sendAs } = await opened(kept, "bram");
    await later(0);
    expect(spokes(sent)).toEqual(["R2"]);
    sendAs("odile");
    await later(0);
    expect(spokes(sent)).toEqual(["R2", "R1"]);
  });

  it("sends nothing while nobody is signed in", async () => {
    const sent = server(saved("R1"));
    await opened(storage(waiting("R1", "bram", "felloe.outbox.000000000000001.000001")), "");
    await later(60_000);
    expect(sent).toHaveLength(0);
  });

  it("is not stopped by a scrap that cannot be read", async () => {
    const kept = storage({
      "felloe.outbox.000000000000000.000001": "{half",
      ...waiting("R1", "bram", "felloe.outbox.000000000000001.000001"),
    });
    const sent = server(saved("R1"));
    await opened(kept);
    await later(0);
    expect(spokes(sent)).toEqual(["R1"]);
    expect(kept.kept.size).toBe(0);
  });
});

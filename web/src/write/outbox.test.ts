import { describe, expect, it, vi } from "vitest";
import { BRAM, later, ODILE, onATablet, onDisk, opened, reading, rest, SET, spokes } from "@/testing/outbox";
import type { Entry } from "./entry";
import { between, carried, down, refuses, saves, says, server, storage } from "@/testing/tablet";

onATablet();

describe("what is done at the bench", () => {
  it("is on the disk before it is sent, and off it when the server has it", async () => {
    let before: Entry[] = [];
    const sent = server(saves());
    const real = fetch;
    const { enter, onSettled } = await opened();
    vi.stubGlobal("fetch", async (request: Request) => {
      before = await onDisk();
      return real(request);
    });
    const told: string[] = [];
    onSettled((e) => told.push(`${e.deed} ${e.target["set_id"]}`));
    enter("reading", SET, reading("R1", 900));
    await rest();
    expect(before.map((e) => [e.by, e.state])).toEqual([["bram", "waiting"]]);
    expect(await onDisk()).toEqual([]);
    expect(told).toEqual(["reading set"]);
    expect(sent[0]).toMatchObject({
      url: "/api/v1/reading-sets/set/entries",
      csrf: "abc=",
      body: { spoke: "R1", value: 900, unit: "N" },
    });
    expect(sent[0]?.key).toMatch(/^[0-9a-f]{32}$/);
  });

  it("is drawn when it is entered and when it is settled, and for no step between", async () => {
    server(saves());
    const { enter, subscribe, currentSnapshot } = await opened();
    const drawn: number[] = [];
    const stop = subscribe(() => drawn.push(currentSnapshot().entries.length));
    enter("reading", SET, reading("R1", 900));
    await rest();
    stop();
    expect(drawn).toEqual([1, 0]);
  });

  it("is sent in the order in which it was done, each with a key of its own", async () => {
    const sent = server(saves());
    const { enter } = await opened();
    for (const n of [1, 2, 3, 4]) enter("reading", SET, reading(`R${n}`, 900 + n));
    await rest();
    expect(spokes(sent)).toEqual(["R1", "R2", "R3", "R4"]);
    expect(new Set(sent.map((s) => s.key)).size).toBe(4);
  });

  it("is sent from memory where the storage is full, and it is said that it is kept nowhere", async () => {
    let up = false;
    const sent: string[] = [];
    const { enter, currentSnapshot, heard } = await opened();
    // A disk that is full refuses the write, and goes on reading.
    const store = await import("./store");
    vi.spyOn(store, "keep").mockRejectedValue(new DOMException("full", "QuotaExceededError"));
    vi.stubGlobal("fetch", async (request: Request) => {
      if (!up) throw new TypeError("Failed to fetch");
      sent.push(...spokes(await carried(request)).map(String));
      return saves()(await carried(request));
    });
    enter("reading", SET, reading("R1", 900));
    await rest();
    expect(currentSnapshot().unkept).toBe(1);
    const leaving = { preventDefault: vi.fn() };
    heard.get("beforeunload")?.(leaving as unknown as Event);
    expect(leaving.preventDefault).toHaveBeenCalled();
    up = true;
    await later(15_000);
    expect(sent).toEqual(["R1"]);
    expect(currentSnapshot()).toMatchObject({ entries: [], unkept: 0 });
  });
});

describe("a network that is away", () => {
  it("is tried again, later and later, with the same key, and loses nothing", async () => {
    const sent = server(down, down, down, saves());
    const { enter, currentSnapshot } = await opened();
    enter("reading", SET, reading("R1", 900));
    enter("reading", SET, reading("R2", 910));
    await rest();
    const first = sent.at(-1)?.request;
    expect(currentSnapshot().offline).toBe(true);
    expect(await onDisk()).toHaveLength(2);
    await later(20_000);
    await later(20_000);
    expect(spokes(sent).slice(-2)).toEqual(["R1", "R2"]);
    expect(first).toBeLessThan(4);
    expect(new Set(sent.filter((s) => s.body["spoke"] === "R1").map((s) => s.key)).size).toBe(1);
    expect(await onDisk()).toEqual([]);
  });

  it("is used at once when the tablet hears that it is back", async () => {
    const sent = server(down, saves());
    const { enter, heard } = await opened();
    enter("reading", SET, reading("R1", 900));
    await rest();
    heard.get("online")?.({} as Event);
    await rest();
    expect(sent).toHaveLength(2);
  });

  it("is said before the tab closes while anything waits, and not after", async () => {
    server(down, saves());
    const { enter, heard } = await opened();
    const leave = () => {
      const event = { preventDefault: vi.fn() };
      heard.get("beforeunload")?.(event as unknown as Event);
      return event.preventDefault.mock.calls.length;
    };
    expect(leave()).toBe(0);
    enter("reading", SET, reading("R1", 900));
    await rest();
    expect(leave()).toBe(1);
    await later(1000);
    expect(leave()).toBe(0);
  });
});

describe("an answer that is not Felloe's", () => {
  it.each([400, 403, 404, 408, 413, 429, 500, 502, 503])(
    "a %i from in between settles nothing",
    async (status) => {
      const sent = server(between(status), saves());
      const { enter } = await opened();
      enter("reading", SET, reading("R1", 900));
      await rest();
      expect((await onDisk()).map((e) => e.state)).toEqual(["waiting"]);
      await later(1000);
      expect(sent).toHaveLength(2);
      expect(sent[0]?.key).toBe(sent[1]?.key);
      expect(await onDisk()).toEqual([]);
    },
  );

  it("a page that answers 200 and is not Felloe settles nothing either", async () => {
    server(between(200), saves());
    const { enter } = await opened();
    enter("reading", SET, reading("R1", 900));
    await rest();
    expect(await onDisk()).toHaveLength(1);
  });
});

describe("Felloe's own answers", () => {
  it("a refusal stays, on the disk, until it is dropped; those behind it go on", async () => {
    const sent = server(saves({ R1: "outside_table" }), saves());
    const { enter, currentSnapshot, dropEntry } = await opened();
    enter("reading", SET, reading("R1", 9));
    enter("reading", SET, reading("R2", 900));
    await later(60_000);
    expect(spokes(sent)).toEqual(["R1", "R2"]);
    expect((await onDisk()).map((e) => [e.state, e.refusal?.code])).toEqual([["refused", "outside_table"]]);
    dropEntry(currentSnapshot().entries[0]?.key ?? "");
    await rest();
    expect(await onDisk()).toEqual([]);
  });

  it("a refusal is there in a page that is opened later", async () => {
    server(refuses(409, "job_done"));
    const { enter } = await opened();
    enter("reading", SET, reading("R1", 900));
    await rest();
    const { currentSnapshot } = await opened();
    expect(currentSnapshot().entries.map((e) => [e.state, e.refusal?.message])).toEqual([
      ["refused", "It says job_done."],
    ]);
  });

  it("doing it anew at the same place mends what was refused there, and nowhere else", async () => {
    server(saves({ R1: "bad", R2: "bad" }), saves());
    const { enter, currentSnapshot } = await opened();
    enter("reading", SET, reading("R1", 9));
    enter("reading", SET, reading("R2", 9));
    await rest();
    enter("reading", SET, reading("R1", 900));
    await rest();
    expect(currentSnapshot().entries.map((e) => (e.body as { spoke: string }).spoke)).toEqual(["R2"]);
    expect(await onDisk()).toHaveLength(1);
  });

  it("sent again after a refusal it goes out under its own key", async () => {
    const sent = server(refuses(409, "job_done"), saves());
    const { enter, currentSnapshot, tryAgain } = await opened();
    enter("reading", SET, reading("R1", 900));
    await rest();
    await tryAgain(currentSnapshot().entries[0]?.key ?? "");
    await rest();
    expect(sent[0]?.key).toBe(sent[1]?.key);
    expect(await onDisk()).toEqual([]);
  });

  it("one entry that always meets a fault holds up nothing done elsewhere, only what was done after it at its place", async () => {
    const sent: string[] = [];
    vi.stubGlobal("fetch", async (request: Request) => {
      const now = await carried(request);
      sent.push(...now.map(({ body }) => `${String(body["spoke"])} ${String(body["value"])}`));
      return now.some(({ body }) => body["spoke"] === "R1") ? refuses(500, "server_fault")() : saves()(now);
    });
    const { enter } = await opened();
    enter("reading", SET, reading("R1", 900));
    enter("reading", SET, reading("R1", 910));
    enter("reading", SET, reading("R2", 920));
    enter("reading", SET, reading("R3", 930));
    await rest();
    // Together first; then each by itself, and what was done later at the place of the one that stumbled waits for it.
    const [together, apart] = [sent.slice(0, 4), sent.slice(4)];
    expect(together).toEqual(["R1 900", "R1 910", "R2 920", "R3 930"]);
    expect(apart.slice(0, 3)).toEqual(["R1 900", "R2 920", "R3 930"]);
    expect(new Set(apart.slice(3))).toEqual(new Set(["R1 900"]));
    expect((await onDisk()).map((e) => (e.body as { value: number }).value)).toEqual([900, 910]);
    expect((await onDisk())[0]?.stumbles).toBeGreaterThan(0);
  });

  it("a lost cookie is fetched anew, once, and the entry goes out", async () => {
    const asked: string[] = [];
    const replies = [refuses(403, "csrf_failed"), says(200, {}), saves()];
    vi.stubGlobal("fetch", async (request: Request) => {
      asked.push(`${request.method} ${new URL(request.url).pathname}`);
      return (replies.shift() ?? saves())(await carried(request));
    });
    const { enter } = await opened();
    enter("reading", SET, reading("R1", 900));
    await rest();
    expect(asked).toEqual([
      "POST /api/v1/reading-sets/set/entries",
      "GET /api/v1/session",
      "POST /api/v1/reading-sets/set/entries",
    ]);
    expect(await onDisk()).toEqual([]);
  });

  it.each(["not_signed_in", "other_person"])("%s: everything waits, and the page is told", async (code) => {
    server(refuses(403, code), saves());
    const { enter, onSessionOver } = await opened();
    const told = vi.fn();
    onSessionOver(told);
    enter("reading", SET, reading("R1", 900));
    await rest();
    expect(told).toHaveBeenCalled();
    expect((await onDisk()).map((e) => e.state)).toEqual(["waiting"]);
  });
});

describe("a tablet that was shut, and other people at it", () => {
  it("sends what it kept, oldest first, under the same keys", async () => {
    server(down);
    const { enter, currentSnapshot } = await opened();
    for (const n of [1, 2]) enter("reading", SET, reading(`R${n}`, 900));
    await rest();
    const keys = currentSnapshot().entries.map((e) => e.key);
    const sent = server(saves());
    await opened();
    expect(spokes(sent)).toEqual(["R1", "R2"]);
    expect(sent.map((s) => s.key)).toEqual(keys);
  });

  it("never sends one person's entries in another's name", async () => {
    server(down);
    const { enter } = await opened(ODILE);
    enter("reading", SET, reading("R1", 900));
    await rest();
    const sent = server(saves());
    const { sendAs, currentSnapshot } = await opened(BRAM);
    await later(60_000);
    expect(sent).toHaveLength(0);
    expect(currentSnapshot().entries.map((e) => e.byName)).toEqual(["Odile"]);
    sendAs(ODILE);
    await rest();
    expect(sent).toHaveLength(1);
  });

  it("sends nothing while nobody is signed in", async () => {
    server(down);
    const { enter } = await opened();
    enter("reading", SET, reading("R1", 900));
    await rest();
    const sent = server(saves());
    await opened(null);
    await later(60_000);
    expect(sent).toHaveLength(0);
  });

  it("brings over what an earlier Felloe kept, scrap left out", async () => {
    const old = { key: "key-R1", setId: "set", userId: "bram", body: reading("R1", 900) };
    const kept = storage({
      "felloe.outbox.000000000000000.000001": "{half",
      "felloe.outbox.000000000000001.000001": JSON.stringify(old),
      "felloe.sound": "tick",
    });
    const sent = server(saves());
    await opened(BRAM, kept);
    await rest();
    expect(sent.map((s) => s.key)).toEqual(["key-R1"]);
    expect([...kept.kept.keys()]).toEqual(["felloe.sound"]);
  });
});

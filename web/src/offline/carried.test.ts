import "fake-indexeddb/auto";
import { dehydrate, hydrate, QueryClient } from "@tanstack/react-query";
import { describe, expect, it, vi } from "vitest";
import { carrier, forgetCarried, FROM_DISK, isCarried } from "./carried";
import { benchOf } from "./useBenchAlong";

const kept = (...queryKey: unknown[]) =>
  isCarried({ queryKey, state: { status: "success", data: {} } } as unknown as Parameters<
    typeof isCarried
  >[0]);

describe("what a tablet carries", () => {
  it("is the work of the bench", () => {
    for (const key of [
      ["session"],
      ["rail"],
      ["rail", "unsafe"],
      ["job", "1", "sets"],
      ["set", "1"],
      ["plan", "1"],
    ])
      expect(kept(...key)).toBe(true);
  });

  it("is nothing else of the shop", () => {
    for (const key of [
      ["customers"],
      ["customers", "one", "1"],
      ["letters"],
      ["staff"],
      ["account"],
      ["shop", "settings"],
    ])
      expect(kept(...key)).toBe(false);
    expect(kept("rail", "find", "penhale")).toBe(false);
  });

  it("is no failure", () => {
    const failed = { queryKey: ["job", "1"], state: { status: "error", data: undefined } };
    expect(isCarried(failed as unknown as Parameters<typeof isCarried>[0])).toBe(false);
  });

  it("is there again, and is known to be old whatever the clock says", async () => {
    const queries = new QueryClient();
    queries.setQueryData(["job", "1"], { number: 7 }, { updatedAt: Date.now() + 3_600_000 });
    await carrier.persistClient({
      timestamp: Date.now(),
      buster: "1",
      clientState: dehydrate(queries),
    });
    await expect.poll(() => carrier.restoreClient(), { timeout: 5000 }).toBeDefined();
    const found = await carrier.restoreClient();
    expect(found?.clientState.queries[0]?.state).toMatchObject({
      data: { number: 7 },
      dataUpdatedAt: FROM_DISK,
    });
    // Also what else holds for as long as a page is open: the words of a trade come in the language of today.
    const again = new QueryClient();
    hydrate(again, found?.clientState ?? {});
    const asked = vi.fn(() => ({ number: 8 }));
    await again.fetchQuery({ queryKey: ["job", "1"], queryFn: asked, staleTime: Infinity });
    expect(asked).toHaveBeenCalledOnce();
  });

  it("stays as it was where the disk is full, and breaks nothing", async () => {
    const queries = new QueryClient();
    queries.setQueryData(["job", "1"], { number: 8 });
    let asked = 0;
    const full = vi.spyOn(IDBObjectStore.prototype, "put").mockImplementation(() => {
      asked += 1;
      throw new DOMException("full", "QuotaExceededError");
    });
    await carrier.persistClient({ timestamp: Date.now(), buster: "1", clientState: dehydrate(queries) });
    await expect.poll(() => asked, { timeout: 5000 }).toBe(1);
    full.mockRestore();
    const found = await carrier.restoreClient();
    expect(found?.clientState.queries[0]?.state).toMatchObject({ data: { number: 7 } });
    // With room again, what is shown next is kept.
    await carrier.persistClient({ timestamp: Date.now(), buster: "1", clientState: dehydrate(queries) });
    await expect
      .poll(async () => (await carrier.restoreClient())?.clientState.queries[0]?.state.data, {
        timeout: 5000,
      })
      .toMatchObject({ number: 8 });
  });

  it("goes when the person signs out", async () => {
    await forgetCarried();
    expect(await carrier.restoreClient()).toBeUndefined();
    // What is still heard before the page is gone is written no more.
    await carrier.persistClient({ timestamp: 1, buster: "1", clientState: { mutations: [], queries: [] } });
    await new Promise((done) => setTimeout(done, 1_700));
    expect(await carrier.restoreClient()).toBeUndefined();
  });
});

it("takes along what is in one's hands first, then what hangs on hooks, and only a day's work", () => {
  const job = (id: string, assigned: string | null, hook: boolean) => ({
    job: { id, assigned_to: assigned && { id: assigned }, hook: hook ? { name: "A1" } : null },
  });
  const hanging = [
    job("a", null, false),
    job("b", "other", true),
    job("c", "me", false),
    job("d", null, true),
  ];
  const rail = { hanging } as unknown as Parameters<typeof benchOf>[0];
  expect(benchOf(rail, "me")).toEqual(["c", "b", "d", "a"]);
  const many = { hanging: Array.from({ length: 40 }, (_, i) => job(String(i), null, false)) };
  expect(benchOf(many as unknown as Parameters<typeof benchOf>[0], "me")).toHaveLength(8);
  expect(benchOf(undefined, "me")).toEqual([]);
});

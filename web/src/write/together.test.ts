import { describe, expect, it } from "vitest";
import { onATablet, onDisk, opened, reading, rest, SET } from "@/testing/outbox";
import { saves, server } from "@/testing/tablet";

onATablet();

describe("readings that wait", () => {
  it("goes together while it waits, each set by itself, and the last of them brings what the set says now", async () => {
    const sent = server(saves());
    const { enter, onSettled } = await opened();
    const looks: [string | undefined, unknown][] = [];
    onSettled((e, found) => looks.push([e.target["set_id"], (found as { state?: unknown }).state]));
    enter("reading", SET, reading("R1", 901));
    enter("reading", { ...SET, set_id: "other" }, reading("R1", 950));
    for (const n of [2, 3, 4]) enter("reading", SET, reading(`R${n}`, 900 + n));
    await rest();
    expect(sent.map((s) => [s.url.split("/")[4], s.body["spoke"]])).toHaveLength(5);
    const requests = new Map<number, string[]>();
    for (const s of sent)
      requests.set(s.request, [...(requests.get(s.request) ?? []), String(s.url.split("/")[4])]);
    for (const sets of requests.values()) expect(new Set(sets).size).toBe(1);
    expect(requests.size).toBeLessThan(5);
    expect(looks.filter(([set, state]) => set === "set" && state)).not.toEqual([]);
    expect(looks.findLast(([set]) => set === "set")?.[1]).toBeTruthy();
  });

  it("is refused one by one, and those beside it are saved", async () => {
    const sent = server(saves({ R2: "outside_table" }));
    const { enter } = await opened(null);
    for (const n of [1, 2, 3]) enter("reading", SET, reading(`R${n}`, 900 + n));
    await rest();
    expect(sent).toEqual([]);
    (await import("./outbox")).sendAs({ id: "", name: "" });
    await rest();
    expect(sent.map((s) => s.request)).toEqual([1, 1, 1]);
    const left = await onDisk();
    expect(left.map((e) => [(e.body as { spoke: string }).spoke, e.state, e.refusal?.code])).toEqual([
      ["R2", "refused", "outside_table"],
    ]);
  });
});

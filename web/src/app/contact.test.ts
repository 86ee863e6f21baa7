import { QueryObserver } from "@tanstack/react-query";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { Problem, Unreachable } from "@/api/problem";
import { makeQueries } from "./contact";

const ours = (status: number) => new Response("{}", { status, headers: { "X-Felloe": "1" } });

describe("a screen that got no answer", () => {
  let looks: number;
  let answer: () => Promise<Response>;

  beforeEach(() => {
    vi.useFakeTimers();
    looks = 0;
    answer = () => Promise.reject(new TypeError("away"));
    vi.stubGlobal("fetch", () => {
      looks += 1;
      return answer();
    });
  });
  afterEach(() => {
    vi.useRealTimers();
    vi.unstubAllGlobals();
  });

  function shown(fails: () => Error | undefined) {
    let asked = 0;
    const observer = new QueryObserver(makeQueries(), {
      queryKey: ["what"],
      retry: false,
      queryFn: () => {
        asked += 1;
        const error = fails();
        return error ? Promise.reject(error) : Promise.resolve("there");
      },
    });
    const leave = observer.subscribe(() => undefined);
    return { observer, asked: () => asked, leave };
  }

  it("asks again by itself once somebody answers, and not before", async () => {
    let away = true;
    const { observer, asked } = shown(() => (away ? new Unreachable() : undefined));
    await vi.advanceTimersByTimeAsync(20_000);
    expect(asked()).toBe(1);
    expect(looks).toBeGreaterThan(1);
    expect(observer.getCurrentResult().isError).toBe(true);
    away = false;
    answer = () => Promise.resolve(ours(403));
    await vi.advanceTimersByTimeAsync(30_000);
    expect(observer.getCurrentResult().data).toBe("there");
    const before = looks;
    await vi.advanceTimersByTimeAsync(120_000);
    expect(looks).toBe(before);
  });

  it("takes neither a proxy nor a server without its database for somebody who answers", async () => {
    const { asked } = shown(() => new Unreachable(502));
    for (const status of [ours(503), new Response("", { status: 200 })]) {
      answer = () => Promise.resolve(status.clone());
      await vi.advanceTimersByTimeAsync(60_000);
    }
    expect(asked()).toBe(1);
  });

  it("looks less and less often where it fails again and again, and no more when it is left", async () => {
    const { asked, leave } = shown(() => new Unreachable(502));
    answer = () => Promise.resolve(ours(200));
    await vi.advanceTimersByTimeAsync(300_000);
    expect(asked()).toBeGreaterThan(4);
    expect(asked()).toBeLessThan(16);
    leave();
    await vi.advanceTimersByTimeAsync(60_000);
    const before = [asked(), looks];
    await vi.advanceTimersByTimeAsync(120_000);
    expect([asked(), looks]).toEqual(before);
  });

  it("leaves a refusal alone", async () => {
    const { asked } = shown(() => new Problem(404, { type: "urn:felloe:problem:not_found" }));
    await vi.advanceTimersByTimeAsync(120_000);
    expect([asked(), looks]).toEqual([1, 0]);
  });
});

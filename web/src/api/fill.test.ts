import { QueryClient } from "@tanstack/react-query";
import { describe, expect, it } from "vitest";
import { fill } from "./fill";

const KEY = ["plan", "1"];
const later = () => new Promise((resolve) => setTimeout(resolve));

/** A question whose answers are given by hand, in the order in which they were asked. */
function asked() {
  const queries = new QueryClient();
  const answers: ((text: string) => void)[] = [];
  const ask = () =>
    void queries
      .fetchQuery({
        queryKey: KEY,
        staleTime: 0,
        queryFn: () => new Promise<string>((give) => answers.push(give)),
      })
      .catch(() => undefined);
  return { queries, answers, ask, shown: () => queries.getQueryData<string>(KEY) };
}

describe("putting an answer where a question’s stands", () => {
  it("is not undone by a question that set out before", async () => {
    const { queries, answers, ask, shown } = asked();
    queries.setQueryData(KEY, "nothing done");
    ask();
    fill<string>(queries, KEY, "one done");
    answers[0]?.("nothing done");
    await later();
    expect(shown()).toBe("one done");
    expect(queries.getQueryState(KEY)?.isInvalidated).toBe(true);
  });

  it("has the first question of all asked anew", async () => {
    const { queries, answers, ask, shown } = asked();
    ask();
    fill<string>(queries, KEY, (old) => old && `${old}, one done`);
    await later();
    answers[0]?.("nothing done");
    await later();
    expect(shown()).toBeUndefined();
    ask();
    answers[1]?.("one done");
    await later();
    expect(shown()).toBe("one done");
  });

  it("asks nothing where nothing is under way", async () => {
    const { queries, answers, shown } = asked();
    fill<string>(queries, KEY, "one done");
    await later();
    expect([shown(), answers.length]).toEqual(["one done", 0]);
  });
});

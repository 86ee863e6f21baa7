import { describe, expect, it } from "vitest";
import { EMPTY, jobOf, kindsFor, NEW, takeInSchema } from "./takeInForm";

const said = {
  ...EMPTY,
  customer: " Wen Loveday ",
  bikeLabel: "tourer",
  complaint: "rubs",
  kind: "disc-front-28",
};
const wrong = (change: object) =>
  takeInSchema.safeParse({ ...said, ...change }).error?.issues.map((i) => i.path.join(".")) ?? [];

describe("what is said at the counter", () => {
  it("is whole with a name, a bike and a complaint", () => {
    expect(wrong({})).toEqual([]);
  });

  it("says at its place what is missing", () => {
    expect(wrong({ customer: "  " })).toEqual(["customer"]);
    expect(wrong({ bikeLabel: "" })).toEqual(["bikeLabel"]);
    expect(wrong({ complaint: " " })).toEqual(["complaint"]);
    expect(wrong({ customer: "", customerId: "c", bikeId: "b", bikeLabel: "" })).toEqual([]);
  });

  it.each(["8O", "19", "401", "80,5"])("refuses a load of %j where it stands", (load) => {
    expect(wrong({ load })).toEqual(["load"]);
  });

  it("takes no kind and no wheel for granted", () => {
    expect(wrong({ kind: "" })).toEqual(["kind"]);
    expect(wrong({ bikeId: "b", wheelsSeen: true })).toEqual(["wheelId"]);
    expect(wrong({ bikeId: "b", wheelsSeen: true, wheelId: NEW })).toEqual([]);
    expect(wrong({ bikeId: "b", wheelsSeen: true, wheelId: NEW, kind: "" })).toEqual(["kind"]);
    expect(wrong({ bikeId: "b", wheelsSeen: true, wheelId: "w", kind: "" })).toEqual([]);
  });

  it("offers the kinds of the end and the brake", () => {
    const kind = (key: string, position: string, brakes: string[]) => ({ key, position, brakes }) as never;
    const kinds = [
      kind("a", "front", ["rim"]),
      kind("b", "rear", ["rim"]),
      kind("c", "front", ["disc"]),
      kind("d", "front", []),
    ];
    const keys = (position: string, brake: string) => kindsFor(kinds, position, brake).map((k) => k.key);
    expect(keys("front", "rim")).toEqual(["a", "d"]);
    expect(keys("front", "disc")).toEqual(["c", "d"]);
    expect(keys("rear", "disc")).toEqual([]);
    expect(keys("front", "")).toEqual(["a", "c", "d"]);
  });

  it("means a second job on one wheel only when it is said", () => {
    const parsed = takeInSchema.parse({ ...said, bikeId: "b", wheelId: "w" });
    expect(jobOf(parsed, undefined)).toMatchObject({ wheel_id: "w", second: false });
    expect(jobOf(parsed, undefined, true)).toMatchObject({ wheel_id: "w", second: true });
    expect(jobOf({ ...parsed, wheelId: NEW }, undefined).wheel_id).toBeUndefined();
  });

  it("asks for a known wheel alone, or for all that is new", () => {
    const parsed = takeInSchema.parse({ ...said, load: "80" });
    expect(jobOf(parsed, undefined)).toMatchObject({
      customer: { name: "Wen Loveday" },
      bike: { label: "tourer", brake: "rim" },
      load_kg: 80,
      with_bike: true,
    });
    const known = jobOf({ ...parsed, wheelId: "w", bikeId: "b", customerId: "c" }, undefined);
    expect(known).toMatchObject({ wheel_id: "w" });
    expect(known.bike ?? known.customer ?? known.bike_id).toBeUndefined();
    expect(jobOf({ ...parsed, bikeId: "b" }, undefined)).toMatchObject({ bike_id: "b" });
    expect(jobOf({ ...parsed, customerId: "c" }, undefined)).toMatchObject({ customer_id: "c" });
  });
});

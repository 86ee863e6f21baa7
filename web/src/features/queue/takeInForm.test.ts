import { describe, expect, it } from "vitest";
import { EMPTY, jobOf, takeInSchema } from "./takeInForm";

const said = { ...EMPTY, customer: " Wen Loveday ", bikeLabel: "tourer", complaint: "rubs" };
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

import { describe, expect, it } from "vitest";
import { startingDial } from "./useDial";

describe("the dial that a tablet used last", () => {
  const streaming = [{ id: "a" }, { id: "b" }];
  it("is used again, with what it looked at", () => {
    expect(startingDial("b lateral radial", streaming)).toEqual({
      instrument: "b",
      kinds: ["lateral", "radial"],
    });
  });
  it("is nobody's where it was put away, or none was used", () => {
    expect(startingDial("gone lateral", streaming)).toBeNull();
    expect(startingDial(null, streaming)).toBeNull();
    expect(startingDial("", streaming)).toBeNull();
  });
  it("is nobody's where it looks at nothing that is known", () => {
    expect(startingDial("a", streaming)).toBeNull();
    expect(startingDial("a upside-down", streaming)).toBeNull();
  });
});

import { describe, expect, it } from "vitest";
import { couldBeNumber, stepped, typedNumber, wrongIn } from "./number";

describe("a typed number", () => {
  it.each([
    ["12", 12],
    ["12,5", 12.5],
    ["12.5", 12.5],
    [" .5", 0.5],
    ["-0,3", -0.3],
    ["−0.3", -0.3],
    ["+4", 4],
    ["7.", 7],
    ["0", 0],
  ])("%j is read", (text, number) => {
    expect(typedNumber(text)).toBe(number);
  });

  it.each(["", "-", ".", ",", "1.2.3", "1,2,3", "1e3", "12 N", "0x10", "Infinity", "--1"])(
    "%j is none",
    (text) => {
      expect(typedNumber(text)).toBeNull();
    },
  );

  it("lets through what may still become one, and nothing else", () => {
    for (const text of ["", "-", "+", ".", "1.", "−", "12,"]) expect(couldBeNumber(text), text).toBe(true);
    for (const text of ["a", "1a", "1..", "1-", "1 2"]) expect(couldBeNumber(text), text).toBe(false);
  });

  it("never lets through keys that end as no number or an empty one", () => {
    const whole = ["12", "12,5", ".5", "-3"];
    for (const text of whole)
      for (let end = 1; end <= text.length; end++) expect(couldBeNumber(text.slice(0, end))).toBe(true);
  });
});

describe("half a step", () => {
  it.each([
    [900, 10, "910"],
    [910, -10, "900"],
    [20, 0.5, "20.5"],
    [20.5, -0.5, "20"],
    [0.1, 0.05, "0.15"],
    [0.05, -0.05, "0"],
    [-0.05, 0.05, "0"],
    [0, -0.05, "-0.05"],
    // A meter whose scale goes by quarters.
    [12, 0.25, "12.25"],
    [12.25, 0.25, "12.5"],
    [0.3, -0.1, "0.2"],
  ])("from %f by %f is %j", (value, by, text) => {
    expect(stepped(value, by)).toBe(text);
  });
});

describe("why a text is no figure", () => {
  it("is said with the text itself, and never read as nothing", () => {
    expect(wrongIn("24O")).toContain("“24O” is no number");
    expect(wrongIn("1.2.3")).toContain("no number");
    expect(wrongIn("")).toBeUndefined();
    expect(wrongIn("24,5")).toBeUndefined();
  });

  it("names the range with its unit, and asks for whole ones where only those count", () => {
    const load = { min: 20, max: 400, unit: "kg", whole: true };
    expect(wrongIn("19", load)).toBe("At least 20 kg.");
    expect(wrongIn("401", load)).toBe("At most 400 kg.");
    expect(wrongIn("80,5", load)).toBe("A whole number, please.");
    expect(wrongIn("80", load)).toBeUndefined();
  });
});

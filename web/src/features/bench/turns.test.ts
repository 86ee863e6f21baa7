import { expect, it } from "vitest";
import { fractionParts } from "@/ui/Fraction";
import { turnsText } from "./turns";

it.each([
  [0.625, "5/8"],
  [-0.25, "1/4"],
  [1, "1"],
  [1.5, "1 1/2"],
  [-2.0625, "2 1/16"],
  [0, "0"],
  [0.0624, "1/16"],
])("%f turns are %j", (turns, text) => {
  expect(turnsText(turns)).toBe(text);
});

it("says every sixteenth so that its parts give it back", () => {
  for (let n = 0; n <= 64; n++) {
    const { whole, top, bottom } = fractionParts(turnsText(n / 16));
    expect(Number(whole || 0) + (top ? Number(top) / Number(bottom) : 0)).toBe(n / 16);
  }
});

import { expect, it } from "vitest";
import { claimed } from "./claims";

it("names the figures that a chance is about, in their order", () => {
  expect(claimed({ unread: [] })).toBe("lateral, radial, dish, tension");
  expect(claimed({ unread: ["tension", "radial"] })).toBe("lateral, dish");
});

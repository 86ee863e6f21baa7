import { expect, test } from "vitest";
import { deviceWords } from "./device";

/** Browsers begin with "Mozilla/5.0", and those of phones say "Mobile": common practice, MDN's page on User-Agent, from memory. */
test("a device is called as its owner knows it", () => {
  expect(deviceWords("Mozilla/5.0 (X11; Linux x86_64) Browser/130.0")).toBe("A computer");
  expect(deviceWords("Mozilla/5.0 (Linux; Android 14) Browser/130.0")).toBe("A tablet");
  expect(deviceWords("Mozilla/5.0 (Android 14; Tablet; rv:130.0) Browser/130.0")).toBe("A tablet");
  expect(deviceWords("Mozilla/5.0 (Linux; Android 14) Browser/130.0 Mobile")).toBe("A phone");
  expect(deviceWords("a script of one's own")).toBe("A program");
  expect(deviceWords("")).toBe("Unknown device");
});

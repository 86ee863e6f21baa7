import { describe, expect, it } from "vitest";
import { holds, look } from "@/verify/look";
import { type Known, verdict } from "@/verify/trust";
import { LANGUAGES, wordsFor } from "@/verify/words";

const hex = (text: string) => Uint8Array.from(text.match(/../g) ?? [], (pair) => parseInt(pair, 16));
const b64 = (text: string) => btoa(String.fromCharCode(...hex(text)));

describe("ed25519, by the vectors of RFC 8032, section 7.1", () => {
  // Secret keys are left out: this page has none.
  const vectors = [
    [
      "d75a980182b10ab7d54bfed3c964073a0ee172f3daa62325af021a68f707511a",
      "",
      "e5564300c360ac729086e2cc806e828a84877f1eb8e5d974d873e065224901555fb8821590a33bacc61e39701cf9b46bd25bf5f0595bbe24655141438e7a100b",
    ],
    [
      "3d4017c3e843895a92b70aa74d1b7ebc9c982ccf2ec4968cc0cd55f12af4660c",
      "72",
      "92a009a9f0d4cab8720e820b5f642540a2b27b5416503f8fb3762223ebdb69da085ac1e43e15996e458f3613d0f11d8c387b2eaeb4302aeeb00d291612bb0c00",
    ],
    [
      "fc51cd8e6218a1a38da47ed00230f0580816ed13ba3303ac5deb911548908025",
      "af82",
      "6291d657deec24024827e69c3abe01a30ce548a284743a445e3680d7db5ac3ac18ff9b538d16f290ae67f760984dc6594a7c15e9716ed28dc027beceea1ec40a",
    ],
  ] as const;

  it.each(vectors)("%s", (key, message, signature) => {
    expect(holds(b64(key), b64(signature), hex(message))).toBe(true);
    expect(holds(b64(key), b64(signature), hex(message + "00"))).toBe(false);
    const other = signature.replace(/^./, (digit) => (digit === "0" ? "1" : "0"));
    expect(holds(b64(key), b64(other), hex(message))).toBe(false);
  });
});

describe("what a page that knows keys says", () => {
  const at = (day: string) => `${day}T12:00:00+00:00`;
  const known: Known = {
    shop: "Here",
    keys: [
      { key: "new", since: at("2026-06-01"), ended_at: null, ended_as: "" },
      { key: "old", since: at("2026-01-01"), ended_at: at("2026-06-01"), ended_as: "followed" },
      { key: "lost", since: at("2025-06-01"), ended_at: at("2026-01-01"), ended_as: "lost" },
      { key: "stolen", since: at("2025-01-01"), ended_at: at("2025-06-01"), ended_as: "stolen" },
    ],
  };
  const signed = (key: string, day: string, ancestors: string[] = []) => ({
    found: "whole" as const,
    statement: { shop: "Anybody", number: 7, signed_at: at(day), key, chain: [] },
    ancestors,
  });

  it.each([
    ["the key in use", signed("new", "2026-09-01"), "genuine"],
    ["a former key, in its time", signed("old", "2026-03-01"), "genuine"],
    ["a former key, long after it was given up", signed("old", "2026-08-01"), "unsure"],
    ["a key, before there was one", signed("new", "2026-03-01"), "unsure"],
    ["a lost key, in its time", signed("lost", "2025-08-01"), "genuine"],
    ["a lost key that somebody found", signed("lost", "2026-08-01"), "unsure"],
    ["a stolen key, whatever day it says", signed("stolen", "2025-02-01"), "unsure"],
    ["a key that this page is too old to know", signed("newer", "2027-01-01", ["new", "old"]), "genuine"],
    ["a key that a stolen one vouches for", signed("thief", "2027-01-01", ["stolen"]), "unsure"],
    ["a key of nobody", signed("thief", "2027-01-01"), "strange"],
    ["a key of nobody, vouched for by nobody", signed("thief", "2027-01-01", ["accomplice"]), "strange"],
  ] as const)("%s", (_what, seen, said) => {
    expect(verdict(seen, known)).toBe(said);
  });

  it("compares digits where it knows nobody", () => {
    expect(verdict(signed("new", "2026-09-01"), null)).toBe("compare");
    expect(verdict(signed("new", "2026-09-01"), { shop: "Here", keys: [] })).toBe("compare");
  });

  it.each(["changed", "unsigned"] as const)("says %s of such a file, whoever it knows", (found) => {
    expect(verdict({ found }, known)).toBe(found);
  });
});

describe("scrap", () => {
  const text = (content: string) => new TextEncoder().encode(content);
  const line = `%felloe-signature ${"A".repeat(86)}==\n`;
  it.each([
    ["nothing", "", "unsigned"],
    ["another PDF", "%PDF-1.7\n%%EOF\n", "unsigned"],
    ["a signature without a statement", `%PDF-1.7\n%%EOF\n${line}`, "changed"],
    ["a statement that is no base64", `%PDF\n%felloe-statement ???\nstartxref\n${line}`, "changed"],
    ["a statement that is no JSON", `%PDF\n%felloe-statement AAAA\nstartxref\n${line}`, "changed"],
    ["a statement that is null", `%PDF\n%felloe-statement ${btoa("null")}\n${line}`, "changed"],
    ["a statement without its signature", `%PDF\n%felloe-statement ${btoa("{}")}\n%%EOF\n`, "changed"],
  ])("%s", (_what, content, found) => {
    expect(look(text(content)).found).toBe(found);
  });
});

it("says everything in every language", () => {
  const names = Object.keys(LANGUAGES["en"] ?? {}).sort();
  for (const words of Object.values(LANGUAGES)) {
    expect(Object.keys(words).sort()).toEqual(names);
    for (const [name, text] of Object.entries(words)) {
      expect(text.match(/\{\w+\}/g)).toEqual(LANGUAGES["en"]?.[name as keyof typeof words].match(/\{\w+\}/g));
    }
  }
  expect(wordsFor(["xx", "pt-BR", "en"])[0]).toBe("pt");
  expect(wordsFor([])[0]).toBe("en");
});

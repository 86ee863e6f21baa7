import { expect, test } from "vitest";
import { heard } from "./phrases";

const figure = (text: string) => ({ what: "figure", text });

test.each([
  ["22", "en", "22"],
  ["22.5", "en", "22.5"],
  ["Seventy two point five", "en", "72.5"],
  ["one hundred twelve", "en", "112"],
  ["minus zero point three five", "en", "-0.35"],
  ["left 0.4", "en", "-0.4"],
  ["plus 1", "en", "1"],
  ["−0.12", "en", "-0.12"],
  ["zweiundsiebzig komma fünf", "de", "72.5"],
  ["einundzwanzig", "de", "21"],
  ["minus null komma drei", "de", "-0.3"],
  ["22,5", "de", "22.5"],
])("%s in %s is %s", (said, language, text) => {
  expect(heard(said, language)).toEqual(figure(text));
});

test.each([
  ["next", "en", "next"],
  ["Done.", "en", "next"],
  ["back", "en", "back"],
  ["again", "en", "again"],
  ["weiter", "de", "next"],
  ["zurück", "de", "back"],
])("%s in %s is a word", (said, language, what) => {
  expect(heard(said, language)).toEqual({ what });
});

test.each(["", "the next customer", "twenty bananas", "point", "seven point", "minus", "hand me the key"])(
  "%s is not for the bench",
  (said) => {
    expect(heard(said, "en")).toBeUndefined();
  },
);

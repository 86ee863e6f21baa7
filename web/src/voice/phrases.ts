/** What somebody at the stand may say: a figure, or one of a few words. Everything else is not for the bench. */
export type Heard = { what: "figure"; text: string } | { what: "next" | "back" | "again" };

// Words that are heard, in the languages that are heard.
const WORDS: Record<string, Record<string, Exclude<Heard["what"], "figure">>> = {
  en: { next: "next", done: "next", back: "back", again: "again", repeat: "again" },
  de: { weiter: "next", fertig: "next", zurück: "back", nochmal: "again", wiederhole: "again" },
};
const MINUS: Record<string, string[]> = { en: ["minus", "left"], de: ["minus", "links"] };
const PLUS: Record<string, string[]> = { en: ["plus", "right"], de: ["plus", "rechts"] };
const POINT: Record<string, string[]> = { en: ["point", "dot"], de: ["komma", "punkt"] };
const SMALL: Record<string, string[]> = {
  en: "zero one two three four five six seven eight nine ten eleven twelve thirteen fourteen fifteen sixteen seventeen eighteen nineteen".split(
    " ",
  ),
  de: "null eins zwei drei vier fünf sechs sieben acht neun zehn elf zwölf dreizehn vierzehn fünfzehn sechzehn siebzehn achtzehn neunzehn".split(
    " ",
  ),
};
const TENS: Record<string, string[]> = {
  en: "twenty thirty forty fifty sixty seventy eighty ninety".split(" "),
  de: "zwanzig dreißig vierzig fünfzig sechzig siebzig achtzig neunzig".split(" "),
};
const HUNDRED: Record<string, string> = { en: "hundred", de: "hundert" };

/** One whole number in words, or undefined where a word is none. */
function whole(words: readonly string[], language: string): number | undefined {
  const small = SMALL[language] ?? [];
  const tens = TENS[language] ?? [];
  let sum = 0;
  for (const word of words) {
    if (/^\d+$/.test(word)) sum += Number(word);
    else if (word === HUNDRED[language]) sum = Math.max(1, sum) * 100;
    else if (small.includes(word)) sum += small.indexOf(word);
    else if (tens.includes(word)) sum += 20 + 10 * tens.indexOf(word);
    else {
      // German says the ones first, in one word: zweiundsiebzig.
      const [ones = "", ten = ""] = word.split("und");
      const at = small.findIndex((s) => s === ones || s === `${ones}s`);
      if (at < 0 || !tens.includes(ten)) return undefined;
      sum += at + 20 + 10 * tens.indexOf(ten);
    }
  }
  return sum;
}

/** What a phrase means at the bench; undefined where it is nothing that is waited for. */
export function heard(phrase: string, language: string): Heard | undefined {
  const lang = language in WORDS ? language : "en";
  const words = phrase
    .toLowerCase()
    .replace(/[−–]/g, "-")
    .replace(/(\d)[.,](\d)/g, `$1 ${POINT[lang]?.[0] ?? ""} $2`)
    .replace(/-(?=\d)/g, `${MINUS[lang]?.[0] ?? ""} `)
    .replace(/[^\p{L}\d ]+/gu, " ")
    .split(" ")
    .filter(Boolean);
  const known = words.length === 1 ? WORDS[lang]?.[words[0] ?? ""] : undefined;
  if (known) return { what: known };
  const minus = MINUS[lang]?.includes(words[0] ?? "") ?? false;
  const rest = minus || PLUS[lang]?.includes(words[0] ?? "") ? words.slice(1) : words;
  if (rest.length === 0) return undefined;
  const point = rest.findIndex((word) => POINT[lang]?.includes(word));
  const before = whole(point < 0 ? rest : rest.slice(0, point), lang);
  if (before === undefined) return undefined;
  let text = String(before);
  if (point >= 0) {
    // After the point digit by digit: "point two five"; a number as it is written.
    const digits = rest.slice(point + 1).map((word) => (/^\d+$/.test(word) ? word : whole([word], lang)));
    if (digits.length === 0 || digits.some((digit) => digit === undefined)) return undefined;
    text += `.${digits.join("")}`;
  }
  return { what: "figure", text: (minus ? "-" : "") + text };
}

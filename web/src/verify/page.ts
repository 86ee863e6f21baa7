/** The page that checks a report: one file, no network. */
import { sha256 } from "@noble/hashes/sha2.js";
import { bytesToHex } from "@noble/hashes/utils.js";
import { bytes, look } from "@/verify/look";
import { type Known, type Verdict, verdict } from "@/verify/trust";
import { wordsFor } from "@/verify/words";

const MARKS: Record<Verdict, string> = {
  genuine: "✓",
  compare: "?",
  unsure: "?",
  unsigned: "?",
  strange: "✕",
  changed: "✕",
};
const [language, words] = wordsFor(navigator.languages);
const known = JSON.parse(document.getElementById("keys")?.textContent ?? "null") as Known | null;

function element<T extends HTMLElement>(name: string): T {
  return document.getElementById(name) as T;
}

function say(text: string, shop: string): string {
  return text.replace("{shop}", () => shop).replace("{count}", String(known?.keys.length ?? 0));
}

function fingerprint(key: string): string {
  const digits = bytesToHex(sha256(bytes(key))).slice(0, 32);
  return digits.match(/.{4}/g)?.join(" ") ?? "";
}

function line(term: string, text: string): void {
  const dt = document.createElement("dt");
  const dd = document.createElement("dd");
  dt.textContent = term;
  dd.textContent = text;
  element("facts").append(dt, dd);
}

async function check(file: File): Promise<void> {
  element("facts").replaceChildren();
  const result = element("result");
  try {
    const seen = look(new Uint8Array(await file.arrayBuffer()));
    const found = verdict(seen, known);
    result.className = found;
    result.textContent = `${MARKS[found]} ${say(words[found], known?.shop ?? "")}`;
    line("PDF", file.name);
    if (seen.found !== "whole") return;
    const { statement } = seen;
    const day = new Date(statement.signed_at).toLocaleString(undefined, {
      dateStyle: "long",
      timeStyle: "short",
    });
    line(words.signed, day);
    line(words.by, `${statement.shop}, ${words.tag} ${String(statement.number)}`);
    line(words.key, fingerprint(statement.key));
  } catch {
    result.className = "unsigned";
    result.textContent = `? ${words.broken}`;
  }
}

document.documentElement.lang = language;
document.title = words.title;
element("title").textContent = words.title;
element("intro").textContent = words.intro;
element("choose").textContent = words.choose;
element("result").textContent = words.none;
element("known").textContent = known?.keys.length ? say(words.knows, known.shop) : words.knowsNone;
for (const key of known?.keys ?? []) {
  const item = document.createElement("li");
  item.textContent = fingerprint(key.key);
  element("digits").append(item);
}

const input = element<HTMLInputElement>("file");
input.addEventListener("change", () => {
  const file = input.files?.[0];
  if (file) void check(file);
  // The same file may be chosen again.
  input.value = "";
});
document.addEventListener("dragover", (event) => {
  event.preventDefault();
});
document.addEventListener("drop", (event) => {
  event.preventDefault();
  const file = event.dataTransfer?.files[0];
  if (file) void check(file);
});

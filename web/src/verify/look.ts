/** Whether a file is as it was signed: felloe/signing/sealed.py says what is added to a PDF. */
import { ed25519 } from "@noble/curves/ed25519.js";

const SIGNATURE = "%felloe-signature ";
const STATEMENT = "%felloe-statement ";
const SUCCESSION = "felloe key succession 1\n";
/** The last line: its start, 88 letters of base64, a line feed. */
const LAST = SIGNATURE.length + 89;

export interface Statement {
  shop: string;
  number: number;
  signed_at: string;
  key: string;
  chain: { key: string; by: string; signature: string }[];
}

export type Look =
  { found: "unsigned" | "changed" } | { found: "whole"; statement: Statement; ancestors: string[] };

export function look(data: Uint8Array): Look {
  const text = latin(data);
  const line = text.slice(-LAST);
  if (!line.startsWith(SIGNATURE) || !line.endsWith("\n")) {
    return { found: text.includes(SIGNATURE) || text.includes(STATEMENT) ? "changed" : "unsigned" };
  }
  const body = data.subarray(0, data.length - LAST);
  try {
    const before = text.slice(0, -LAST);
    const at = before.lastIndexOf(`\n${STATEMENT}`);
    const said = before.slice(at + 1 + STATEMENT.length).split("\n", 1)[0] ?? "";
    const statement = read(said);
    if (at < 0 || !holds(statement.key, line.slice(SIGNATURE.length, -1), body)) return { found: "changed" };
    return { found: "whole", statement, ancestors: ancestors(statement) };
  } catch {
    return { found: "changed" };
  }
}

/** The keys that vouch for the one that signed, from the newest on, as far as each link holds. */
function ancestors(statement: Statement): string[] {
  const found: string[] = [];
  let key = statement.key;
  for (const link of [...statement.chain].reverse()) {
    if (link.key !== key || !linked(link)) break;
    key = link.by;
    found.push(key);
  }
  return found;
}

function linked(link: Statement["chain"][number]): boolean {
  try {
    const pair = [...new TextEncoder().encode(SUCCESSION), ...bytes(link.by), ...bytes(link.key)];
    return holds(link.by, link.signature, Uint8Array.from(pair));
  } catch {
    return false;
  }
}

/** Strictly by RFC 8032: no second spelling of a signature passes. */
export function holds(key: string, signature: string, data: Uint8Array): boolean {
  return ed25519.verify(bytes(signature), data, bytes(key), { zip215: false });
}

function read(base64: string): Statement {
  const said = JSON.parse(new TextDecoder("utf-8", { fatal: true }).decode(bytes(base64))) as Statement;
  const sound =
    typeof said.shop === "string" &&
    Number.isInteger(said.number) &&
    !Number.isNaN(Date.parse(said.signed_at)) &&
    Array.isArray(said.chain);
  if (!sound) throw new Error("no statement");
  return said;
}

export function bytes(base64: string): Uint8Array {
  return Uint8Array.from(atob(base64), (letter) => letter.charCodeAt(0));
}

function latin(data: Uint8Array): string {
  let text = "";
  for (let at = 0; at < data.length; at += 32768) {
    text += String.fromCharCode(...data.subarray(at, at + 32768));
  }
  return text;
}

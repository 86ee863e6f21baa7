/** What the page says. It is one file without a catalogue, so its words stand here. */
import type { Verdict } from "@/verify/trust";

export type Words = Record<
  "title" | "intro" | "choose" | "signed" | "key" | "by" | "tag" | "none" | "broken" | "knows" | "knowsNone",
  string
> &
  Record<Verdict, string>;

const en: Words = {
  title: "Check a report on a wheel",
  intro:
    "Drop the PDF here, or choose it. It stays on this device: this page works without a network and sends nothing.",
  choose: "Choose a file",
  signed: "Signed",
  key: "Key",
  by: "By its own word",
  tag: "tag",
  none: "No file yet.",
  broken: "This file could not be read. Try it again.",
  knows: "This page knows the keys of {shop}, {count} in all.",
  knowsNone: "This page knows no shop's keys. A shop gives away its own copy of it, which does.",
  genuine: "Genuine: not a byte was changed since {shop} signed it.",
  compare:
    "Not a byte was changed since it was signed. Whose key that was, this page cannot know: compare its digits with those that the shop gives you.",
  strange:
    "Not a byte was changed, but it was not signed with a key of {shop}. Do not rely on it; ask the shop.",
  unsure:
    "Not a byte was changed, but this key of {shop} was given up or was in other hands. It may be genuine or forged: ask the shop.",
  changed: "Not as it was signed: something in this file was changed, added or lost. Do not rely on it.",
  unsigned: "This file carries no signature. Nothing can be said about it.",
};

const de: Words = {
  title: "Einen Bericht über ein Laufrad prüfen",
  intro:
    "Die PDF-Datei hierher ziehen oder auswählen. Sie bleibt auf diesem Gerät: Diese Seite arbeitet ohne Netz und sendet nichts.",
  choose: "Datei auswählen",
  signed: "Signiert",
  key: "Schlüssel",
  by: "Nach eigener Angabe",
  tag: "Anhänger",
  none: "Noch keine Datei.",
  broken: "Diese Datei konnte nicht gelesen werden. Bitte noch einmal versuchen.",
  knows: "Diese Seite kennt die Schlüssel von {shop}, insgesamt {count}.",
  knowsNone:
    "Diese Seite kennt keine Schlüssel. Die Werkstatt gibt ihre eigene Fassung weiter, die sie kennt.",
  genuine: "Echt: Seit der Signatur durch {shop} wurde kein Byte verändert.",
  compare:
    "Seit der Signatur wurde kein Byte verändert. Wem der Schlüssel gehört, kann diese Seite nicht wissen: Vergleichen Sie seine Ziffern mit denen, die Ihnen die Werkstatt nennt.",
  strange:
    "Kein Byte wurde verändert, aber es ist kein Schlüssel von {shop}. Verlassen Sie sich nicht darauf; fragen Sie die Werkstatt.",
  unsure:
    "Kein Byte wurde verändert, aber dieser Schlüssel von {shop} wurde aufgegeben oder war in fremden Händen. Der Bericht kann echt oder gefälscht sein: Fragen Sie die Werkstatt.",
  changed:
    "Nicht so, wie es signiert wurde: In dieser Datei wurde etwas verändert, ergänzt oder entfernt. Verlassen Sie sich nicht darauf.",
  unsigned: "Diese Datei trägt keine Signatur. Über sie lässt sich nichts sagen.",
};

const pt: Words = {
  title: "Verificar um relatório de uma roda",
  intro:
    "Arraste o PDF para aqui ou escolha-o. Fica neste aparelho: esta página funciona sem rede e não envia nada.",
  choose: "Escolher ficheiro",
  signed: "Assinado",
  key: "Chave",
  by: "Segundo ela própria",
  tag: "etiqueta",
  none: "Ainda nenhum ficheiro.",
  broken: "Não foi possível ler este ficheiro. Tente outra vez.",
  knows: "Esta página conhece as chaves de {shop}, {count} ao todo.",
  knowsNone:
    "Esta página não conhece chaves de nenhuma oficina. A oficina dá a sua própria cópia, que as conhece.",
  genuine: "Autêntico: nenhum byte foi alterado desde a assinatura de {shop}.",
  compare:
    "Nenhum byte foi alterado desde a assinatura. De quem é a chave, esta página não pode saber: compare os dígitos com os que a oficina lhe der.",
  strange:
    "Nenhum byte foi alterado, mas não foi assinado com uma chave de {shop}. Não confie nele; pergunte à oficina.",
  unsure:
    "Nenhum byte foi alterado, mas esta chave de {shop} foi abandonada ou esteve noutras mãos. Pode ser autêntico ou forjado: pergunte à oficina.",
  changed:
    "Não está como foi assinado: algo neste ficheiro foi alterado, acrescentado ou perdido. Não confie nele.",
  unsigned: "Este ficheiro não tem assinatura. Nada se pode dizer sobre ele.",
};

export const LANGUAGES: Record<string, Words> = { en, de, pt };

export function wordsFor(wanted: readonly string[]): [string, Words] {
  for (const tag of wanted) {
    const language = tag.split("-")[0] ?? "";
    const words = LANGUAGES[language];
    if (words) return [language, words];
  }
  return ["en", en];
}

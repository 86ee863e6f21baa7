import { i18n } from "@lingui/core";
import { t as say } from "@lingui/core/macro";

/** Keys of the API's lists as words, for sentences and labels. */
const WORDS: Record<string, string> = {
  front: say`front`,
  rear: say`rear`,
  tension: say`tension`,
  lateral: say`lateral`,
  radial: say`radial`,
  dish: say`dish`,
  mean_tension: say`mean tension`,
  sureness: say`sureness`,
  as_left: say`readings as left`,
  steel: say`steel`,
  carbon_steel: say`carbon steel`,
  stainless: say`stainless`,
  stainless_steel: say`stainless steel`,
  aluminium: say`aluminium`,
  carbon: say`carbon`,
  titanium: say`titanium`,
  brass: say`brass`,
  leading: say`leading`,
  trailing: say`trailing`,
  roadworthy: say`roadworthy`,
  sound: say`sound`,
  fine: say`fine`,
  race: say`race`,
  quiet: say`quiet`,
  tick: say`tick`,
  voice: say`voice`,
  over: say`over`,
  under: say`under`,
  spoke: say`spoke`,
  nipple: say`nipple`,
  washer: say`washer`,
  yes: say`yes`,
  no: say`no`,
  repaired: say`repaired`,
  no_fault: say`no fault of the wheel`,
  declined: say`repair declined`,
  cancelled: say`cancelled`,
  beyond_repair: say`beyond repair`,
  not_fetched: say`not fetched`,
  in: say`in`,
  out: say`out`,
};

/** The word for a key; a key that is the shop's own is a word already. */
export function word(key: string): string {
  return WORDS[key] ?? key.replaceAll("_", " ");
}

/** The word with a capital, for the start of a label. */
export function headWord(key: string): string {
  const found = word(key);
  return found.charAt(0).toUpperCase() + found.slice(1);
}

/** A name as it stands in the middle of a sentence; a language that writes its nouns with a capital keeps it. */
export function within(name: string): string {
  return i18n.locale.startsWith("de") ? name : name.charAt(0).toLowerCase() + name.slice(1);
}

/** How spokes cross on their way to the rim. */
export function crossingsWord(crossings: number | string): string {
  return Number(crossings) === 0 ? say`radial` : say`${crossings}-cross`;
}

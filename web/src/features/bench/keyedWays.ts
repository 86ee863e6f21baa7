import { t as say } from "@lingui/core/macro";
import type { Order } from "./order";
import type { Way } from "./Ways";

interface WaysOf {
  sources: readonly { value: string; text: string }[];
  source: string;
  /** Another instrument; `back`: and on with reading. */
  onSource: (value: string, back: boolean) => void;
  order: Order;
  onOrder: (order: Order) => void;
  again: boolean;
  onAgain: (again: boolean) => void;
  onWay: (way: Way) => void;
}

export interface KeyedWay {
  text: string;
  now?: boolean;
  go: () => void;
}

/** What the digits 1 to 9 and 0 stand for among the other ways to read. */
export function waysByKey(of: WaysOf): KeyedWay[] {
  const { sources, source, onSource, order, onOrder, again, onAgain, onWay } = of;
  const at = sources.findIndex((s) => s.value === source);
  const following = sources[(at + 1) % sources.length];
  const [from, to] = [sources[at]?.text ?? say`nothing chosen`, following?.text ?? ""];
  const ordered = (next: Order, text: string) => ({ text, now: order === next, go: () => onOrder(next) });
  const sourced = (value: string, text: string) => ({
    text,
    now: source === value,
    go: () => onSource(value, true),
  });
  return [
    ordered("quick", say`A quick look: a few spokes of each side`),
    ordered("sides", say`All, right then left`),
    ordered("left", say`All, left then right`),
    ordered("passing", say`As they pass`),
    sourced("feel", say`By feel, 1 to 4`),
    sourced("Hz", say`Pitch in Hz`),
    { text: say`Read with ${from}; next: ${to}`, go: () => onSource(following?.value ?? source, false) },
    { text: say`A lump, by eye`, go: () => onWay("lump") },
    { text: say`By ear: pluck a side`, go: () => onWay("listen") },
    { text: say`Repeat, and average`, now: again, go: () => onAgain(!again) },
  ];
}

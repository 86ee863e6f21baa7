import { t as say } from "@lingui/core/macro";

/** A key, as it stands on its cap, and what it does here. */
export type KeyLine = readonly [keys: string, does: string];

const everywhere = (): KeyLine[] => [
  ["/", say`find a wheel, a customer, a part`],
  ["?", say`these keys`],
];

/* eslint-disable lingui/no-unlocalized-strings -- caps of keys */
/** The keys of the screen at an address; those of the bench are its ten. */
export function keysOf(path: string): KeyLine[] {
  if (/^\/jobs\/[^/]+\/readings\//.test(path))
    return [
      ["0–9 . −", say`the figure`],
      ["Enter", say`record it, and on to the next spoke; empty: on`],
      ["+ −", say`half a step more or less than what stands there`],
      ["Backspace", say`take back a digit; empty: one spoke back`],
      ["* /", say`what is read: tension, lateral, radial, dish, other ways`],
      ["← →", say`along the rim`],
      ["↑ ↓", say`to the other side`],
      ...everywhere(),
    ];
  if (/^\/jobs\/[^/]+\/plan\//.test(path))
    return [
      ["Enter", say`turned as it says`],
      ["+ −", say`turned a step more or less`],
      ["0", say`left as it is`],
      ["← →", say`another nipple`],
      ["Backspace", say`take the last one back`],
      ...everywhere(),
    ];
  if (/^\/jobs\/[^/]+\/live\//.test(path))
    return [
      ["Enter", say`turned; at the look: go on without one`],
      ["+ −", say`turned a step more or less`],
      ["0", say`it will not turn`],
      ["0 1 2", say`at the look: nothing rubs, it rubs, read a figure`],
      ["Backspace", say`take the last one back`],
      ...everywhere(),
    ];
  if (/^\/jobs\/[^/]+\/lacing$/.test(path))
    return [["Enter", say`the spoke is in`], ["Backspace", say`take the last one out`], ...everywhere()];
  if (/^\/practice\/(?!lessons)./.test(path))
    return [
      ["4 6", say`back and on along the rim`],
      ["+ −", say`tighten, ease by the step`],
      [".", say`another step`],
      ["5", say`spin the wheel`],
      ["2 8", say`pointers closer, wider`],
      ["1 3 7", say`dials round, dish gauge, meter on this spoke`],
      ["9", say`pluck this spoke`],
      ["0", say`squeeze the spokes in pairs`],
      ["* /", say`oil and new nipple; with blades: hold, turn flat`],
      ["Enter", say`the plan’s nipple; without a plan: judge this pass`],
      ["e", say`done: the marks`],
      ...everywhere(),
    ];
  if (path === "/")
    return [
      ["Tab", say`to the wheels`],
      ["← → ↑ ↓", say`along the rail`],
      ["Enter", say`open the wheel`],
      ["p", say`another promise for it`],
      ...everywhere(),
    ];
  return [
    ["Tab", say`on to the next field or key`],
    ["Enter", say`do it`],
    ["Esc", say`close what is open`],
    ...everywhere(),
  ];
}
/* eslint-enable lingui/no-unlocalized-strings */

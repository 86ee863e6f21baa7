import { useEffect, useState } from "react";

/** So long without a key, and the hand is taken to rest. */
const REST_MS = 1500;

let halfTyped: EventTarget | null = null;
let lastKeyAt = -REST_MS;

window.addEventListener(
  "keydown",
  (event) => {
    lastKeyAt = performance.now();
    if (event.key === "Enter" || event.key === "Escape") halfTyped = null;
  },
  true,
);
window.addEventListener("input", (event) => (halfTyped = event.target), true);
window.addEventListener(
  "focusout",
  (event) => {
    if (event.target === halfTyped) halfTyped = null;
  },
  true,
);

const rests = () => halfTyped === null && performance.now() - lastKeyAt >= REST_MS;

/**
 * True from the first moment at which nobody is in the middle of typing, and from then on. What opens by itself waits
 * for it: a dialog that takes the focus from a hand that types has the next figure in it.
 */
export function useOnceAtRest(): boolean {
  const [rested, setRested] = useState(rests);
  useEffect(() => {
    if (rested) return;
    const look = setInterval(() => rests() && setRested(true), 200);
    return () => clearInterval(look);
  }, [rested]);
  return rested;
}

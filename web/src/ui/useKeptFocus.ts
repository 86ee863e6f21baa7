import { type RefObject, useEffect } from "react";

/** Bring the focus back to what a hand works on when it falls to the page itself, and when a number key is struck there. */
export function useKeptFocus(input: RefObject<HTMLElement | null>): void {
  useEffect(() => {
    const back = (event: globalThis.KeyboardEvent) => {
      if (document.activeElement === document.body && /^[\d.,+-]$|^Enter$|^Backspace$/.test(event.key))
        input.current?.focus();
    };
    const lost = () => {
      requestAnimationFrame(() => {
        if (document.activeElement === document.body) input.current?.focus();
      });
    };
    document.addEventListener("keydown", back);
    document.addEventListener("focusout", lost);
    return () => {
      document.removeEventListener("keydown", back);
      document.removeEventListener("focusout", lost);
    };
  }, [input]);
}

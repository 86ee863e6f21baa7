import { type RefObject, useEffect } from "react";

/* eslint-disable lingui/no-unlocalized-strings -- keys and selectors, no words */
const FIGURE_KEYS = /^[\d.,+\-*/]$|^Backspace$/;
/** What is typed into. */
const TYPED = "input:not([type=checkbox], [type=radio]), textarea, [contenteditable]";
/** What takes the keys for itself while it is there. */
const TAKES_KEYS = `${TYPED}, select, [role=dialog], [role=menu], [role=listbox]`;

const isOpen = () => document.querySelector("[role=dialog], [role=menu]") !== null;

/**
 * Keep the keys with what a hand works on: when the focus falls to the page itself, when a button, a column of the strip or a
 * list was touched, and when a key of figures is struck while a button has the focus. Who walks by Tab stays where he is.
 */
export function useKeptFocus(input: RefObject<HTMLElement | null>): void {
  useEffect(() => {
    let touched = false;
    const home = () => input.current?.focus({ preventScroll: true });
    const back = (event: globalThis.KeyboardEvent) => {
      touched = false;
      const at = document.activeElement;
      const onPage = at === document.body && (FIGURE_KEYS.test(event.key) || event.key === "Enter");
      const onButton =
        at instanceof Element &&
        !at.closest(TAKES_KEYS) &&
        !input.current?.contains(at) &&
        FIGURE_KEYS.test(event.key);
      if (event.ctrlKey || event.metaKey || event.altKey || isOpen() || (!onPage && !onButton)) return;
      home();
      // What works by keys and is no field has not heard this one.
      if (onButton && input.current && !(input.current instanceof HTMLInputElement)) {
        event.preventDefault();
        input.current.dispatchEvent(
          new KeyboardEvent("keydown", {
            key: event.key,
            repeat: event.repeat,
            bubbles: true,
            cancelable: true,
          }),
        );
      }
    };
    const settle = (event: Event) =>
      requestAnimationFrame(() => {
        const at = document.activeElement;
        if (isOpen() || input.current?.contains(at)) return;
        if (at === document.body) home();
        // A list that was touched is open: it gives the keys back when something in it was chosen.
        else if (at instanceof HTMLSelectElement && event.type !== "change") return;
        else if (touched && at instanceof Element && !at.closest(TYPED)) home();
      });
    const touch = () => {
      touched = true;
    };
    document.addEventListener("pointerdown", touch);
    document.addEventListener("keydown", back);
    document.addEventListener("focusout", settle);
    document.addEventListener("click", settle);
    document.addEventListener("change", settle);
    return () => {
      document.removeEventListener("pointerdown", touch);
      document.removeEventListener("keydown", back);
      document.removeEventListener("focusout", settle);
      document.removeEventListener("click", settle);
      document.removeEventListener("change", settle);
    };
  }, [input]);
}

import { type ReactNode, useContext, useRef, useState } from "react";
import { flushSync } from "react-dom";
import { classes } from "./classes";
import { Item } from "./menuItem";
import type { OpenMenu } from "./OpenMenu";

export interface MenuProps {
  label: string;
  trigger: ReactNode;
  children: ReactNode;
  onOpenChange?: (open: boolean) => void;
  /** The focus comes back to its own button; else it falls to the page, and the bench takes it. */
  givesBack?: boolean;
}

/** How a menu was asked for before what opens it was there; `focused` where its button only had the focus. */
export type Asked = "" | "focused" | "pointer" | "key";

export const BUTTON = "min-h-12 min-w-12 rounded-sm in-[header]:min-h-11 border border-current px-3 text-sm";

/** The keys that open a menu. */
const opens = (event: { key: string }) => ["Enter", " ", "ArrowDown"].includes(event.key);

let known: typeof OpenMenu | undefined;

/**
 * A button with a menu. What opens menus is no part of a first load: it is fetched when a finger, a pointer or the focus
 * comes near; whoever asks before it is there gets the menu as soon as it is.
 */
export function Menu(props: MenuProps) {
  const [opened, setOpened] = useState<{ Menu: typeof OpenMenu; asked: Asked } | undefined>(
    () => known && { Menu: known, asked: "" },
  );
  const asked = useRef<Asked>("");
  const button = useRef<HTMLButtonElement>(null);
  if (opened) return <opened.Menu {...props} asked={opened.asked} />;

  const near = () =>
    import("./OpenMenu").then(
      ({ OpenMenu }) => {
        known = OpenMenu;
        // Its own button takes the place of this one, and the focus with it.
        if (!asked.current && document.activeElement === button.current) asked.current = "focused";
        // At once, with its effects: the very next key is the menu's.
        flushSync(() => setOpened({ Menu: OpenMenu, asked: asked.current }));
      },
      // Off the net, before it was ever carried: the next press tries again.
      () => (asked.current = ""),
    );
  const ask = (how: Asked) => {
    asked.current = how;
    // Whoever types something else meanwhile has changed his mind: the menu takes no key from him when it comes.
    const typed = (event: KeyboardEvent) => {
      if (!opens(event)) asked.current = "";
    };
    document.addEventListener("keydown", typed, true);
    void near().finally(() => document.removeEventListener("keydown", typed, true));
  };
  return (
    <button
      ref={button}
      type="button"
      aria-label={props.label}
      aria-haspopup="menu"
      aria-expanded={false}
      className={BUTTON}
      onPointerEnter={() => void near()}
      onFocus={() => void near()}
      onPointerDown={(event) => event.button === 0 && !event.ctrlKey && ask("pointer")}
      onKeyDown={(event) => {
        if (!opens(event)) return;
        event.preventDefault();
        ask("key");
      }}
    >
      {props.trigger} <span aria-hidden="true">▾</span>
    </button>
  );
}

interface MenuItemProps {
  onSelect: () => void;
  children: ReactNode;
  className?: string;
}

export function MenuItem({ onSelect, children, className }: MenuItemProps) {
  const made = useContext(Item);
  return made?.({
    onSelect,
    children,
    className: classes(
      "flex min-h-12 cursor-pointer items-center rounded-sm px-3 outline-none data-[highlighted]:bg-signal data-[highlighted]:text-signal-ink",
      className,
    ),
  });
}

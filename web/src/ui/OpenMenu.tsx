import { DropdownMenu } from "radix-ui";
import { useEffect, useLayoutEffect, useRef } from "react";
import { type Asked, BUTTON, type MenuProps } from "./Menu";
import { Item } from "./menuItem";

/** A menu with all that opens it. */
export function OpenMenu({
  label,
  trigger,
  children,
  onOpenChange,
  givesBack = true,
  asked,
}: MenuProps & { asked: Asked }) {
  const button = useRef<HTMLButtonElement>(null);
  const atOnce = asked === "pointer";
  useLayoutEffect(() => {
    if (asked === "focused" || asked === "key") button.current?.focus();
  }, [asked]);
  useEffect(() => {
    if (atOnce) onOpenChange?.(true);
    // The key is pressed once more for it, so that it opens as by any key: at its first entry.
    if (asked === "key")
      // eslint-disable-next-line lingui/no-unlocalized-strings
      button.current?.dispatchEvent(new KeyboardEvent("keydown", { key: "Enter", bubbles: true }));
    // How it was asked for the first time is of no concern later.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, []);
  return (
    <DropdownMenu.Root modal={false} defaultOpen={atOnce} {...(onOpenChange ? { onOpenChange } : {})}>
      <DropdownMenu.Trigger ref={button} aria-label={label} className={BUTTON}>
        {trigger} <span aria-hidden="true">▾</span>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={4}
          onCloseAutoFocus={(event) => {
            // It comes a moment after the menu has gone: who touched something else meanwhile stays there.
            const at = document.activeElement;
            const left = at === document.body || (event.target as Node).contains(at);
            if (!givesBack || !left) event.preventDefault();
          }}
          className="z-20 max-h-(--radix-dropdown-menu-content-available-height) min-w-48 overflow-y-auto rounded-sm border border-line-strong bg-plate p-1 text-ink shadow-lg"
        >
          <Item value={(item) => <DropdownMenu.Item {...item} />}>{children}</Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

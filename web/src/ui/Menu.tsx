import { DropdownMenu } from "radix-ui";
import type { ReactNode } from "react";
import { classes } from "./classes";

export function Menu({
  label,
  trigger,
  children,
  onOpenChange,
  givesBack = true,
}: {
  label: string;
  trigger: ReactNode;
  children: ReactNode;
  onOpenChange?: (open: boolean) => void;
  /** The focus comes back to its own button; else it falls to the page, and the bench takes it. */
  givesBack?: boolean;
}) {
  return (
    <DropdownMenu.Root modal={false} {...(onOpenChange ? { onOpenChange } : {})}>
      <DropdownMenu.Trigger
        aria-label={label}
        className="min-h-12 min-w-12 rounded-sm in-[header]:min-h-11 border border-current px-3 text-sm"
      >
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
          className="z-20 min-w-48 rounded-sm border border-line-strong bg-plate p-1 text-ink shadow-lg"
        >
          {children}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

interface MenuItemProps {
  onSelect: () => void;
  children: ReactNode;
  className?: string;
}

export function MenuItem({ onSelect, children, className }: MenuItemProps) {
  return (
    <DropdownMenu.Item
      onSelect={onSelect}
      className={classes(
        "flex min-h-12 cursor-pointer items-center rounded-sm px-3 outline-none data-[highlighted]:bg-signal data-[highlighted]:text-signal-ink",
        className,
      )}
    >
      {children}
    </DropdownMenu.Item>
  );
}

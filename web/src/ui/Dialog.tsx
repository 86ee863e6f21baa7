import { Dialog as Radix } from "radix-ui";
import type { ReactNode } from "react";

interface DialogProps {
  open: boolean;
  onOpenChange: (open: boolean) => void;
  title: string;
  lead?: string;
  children: ReactNode;
}

export function Dialog({ open, onOpenChange, title, lead, children }: DialogProps) {
  return (
    <Radix.Root open={open} onOpenChange={onOpenChange}>
      <Radix.Portal>
        <Radix.Overlay className="fixed inset-0 z-30 bg-shade" />
        <Radix.Content
          {...(lead ? {} : { "aria-describedby": undefined })}
          className="fixed top-1/2 left-1/2 z-40 max-h-[90dvh] w-[min(640px,94vw)] -translate-x-1/2 -translate-y-1/2 overflow-y-auto rounded-md border border-line-strong bg-face p-5"
        >
          <Radix.Title className="text-xl font-bold">{title}</Radix.Title>
          {lead && <Radix.Description className="mt-1 text-muted">{lead}</Radix.Description>}
          <div className="mt-4">{children}</div>
        </Radix.Content>
      </Radix.Portal>
    </Radix.Root>
  );
}

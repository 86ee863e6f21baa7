import { createContext, type ReactNode } from "react";

interface ItemProps {
  onSelect: () => void;
  className: string;
  children: ReactNode;
}

/** How an entry is drawn; a menu says it once it is open. */
export const Item = createContext<((item: ItemProps) => ReactNode) | undefined>(undefined);

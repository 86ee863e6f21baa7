import { t as say } from "@lingui/core/macro";
import type { HTMLAttributes } from "react";

export interface CustomerField {
  name: "phone" | "email" | "note";
  label: string;
  inputMode: HTMLAttributes<HTMLInputElement>["inputMode"];
}

/** What is asked of a new customer beside the name. */
export const CUSTOMER_FIELDS: readonly CustomerField[] = [
  { name: "phone", label: say`Phone`, inputMode: "tel" },
  { name: "email", label: say`E-mail`, inputMode: "email" },
];

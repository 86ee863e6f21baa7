import { t as say } from "@lingui/core/macro";
import type { HTMLAttributes } from "react";
import type { Schemas } from "@/api/client";

export interface CustomerField {
  name: Exclude<keyof Schemas["NewCustomerRequest"], "name">;
  label: string;
  inputMode: HTMLAttributes<HTMLInputElement>["inputMode"];
}

/** What is asked of a new customer beside the name. */
export const CUSTOMER_FIELDS: readonly CustomerField[] = [
  { name: "phone", label: say`Phone`, inputMode: "tel" },
];

import { useEffect, useRef, type RefObject } from "react";
import type { Schemas } from "@/api/client";
import type { Hanging } from "./railDays";

/**
 * The wheel that was moved keeps the keys, wherever it hangs now: on another day it is another element, and the answer that
 * hangs it there may come before the dialog is gone or long after. `open` says that the dialog is.
 */
export function useMovedFocus(
  line: RefObject<HTMLDivElement | null>,
  hanging: readonly Hanging[],
  open: boolean,
): (job: Schemas["RailJob"]) => void {
  const kept = useRef<{ id: string; was: string | null }>(undefined);
  useEffect(() => {
    const { id, was } = kept.current ?? {};
    const job = hanging.find((h) => h.job.id === id)?.job;
    if (open || !job || job.promised_at === was) return;
    kept.current = undefined;
    const at = document.activeElement;
    // Whoever has gone elsewhere meanwhile is not fetched back.
    if (at && at !== document.body && at.getAttribute("data-hung") !== id) return;
    line.current?.querySelector<HTMLElement>(`[data-hung="${id ?? ""}"]`)?.focus();
  }, [line, hanging, open]);
  return (job) => {
    kept.current = { id: job.id, was: job.promised_at };
  };
}

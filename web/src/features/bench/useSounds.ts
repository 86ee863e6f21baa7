import { useEffect } from "react";
import type { SavedReading } from "@/write/deeds";
import { onSettled } from "@/write/outbox";
import { useEntries } from "@/write/useOutbox";
import { confirm, refuse } from "./sound";

/** A tick when the server has a reading, two tones when it refuses one. */
export function useSounds(setId: string): void {
  const refused = useEntries("reading", { set_id: setId }).filter((e) => e.state === "refused");
  const count = refused.length;
  useEffect(
    () =>
      onSettled((entry, found) => {
        if (entry.deed !== "reading" || entry.target["set_id"] !== setId) return;
        const { reading } = found as SavedReading;
        const entered = reading.entered as Record<string, unknown>;
        const said = entered["value"] ?? entered["feel"] ?? reading.value;
        confirm(
          reading.spoke ?? "",
          typeof said === "number" || typeof said === "string" ? String(said) : "",
        );
      }),
    [setId],
  );
  useEffect(() => {
    if (count > 0) refuse();
  }, [count]);
}

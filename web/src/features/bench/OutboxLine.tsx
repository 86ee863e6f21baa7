import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";
import type { Schemas } from "@/api/client";
import { ask } from "@/api/queries";
import { onSaved, sendAs, useOutbox } from "./outbox";

/** Sends what waits, keeps the caches right, and says in the top bar how much is still on this tablet. */
export function OutboxLine() {
  const session = useQuery(ask.session());
  const queries = useQueryClient();
  const { waiting, offline } = useOutbox();
  const userId = session.data?.id;
  useEffect(() => {
    if (userId) sendAs(userId);
  }, [userId]);
  useEffect(
    () =>
      onSaved((setId, reading) => {
        queries.setQueryData<Schemas["ReadingSetDetail"]>(
          ["set", setId],
          (old) => old && withReading(old, reading),
        );
        void queries.invalidateQueries({ queryKey: ["state", setId] });
        void queries.invalidateQueries({ queryKey: ["comparison"] });
      }),
    [queries],
  );
  if (waiting.length === 0) return null;
  return (
    <span role="status" className="rounded-sm bg-signal px-2 py-1 text-sm font-bold text-signal-ink">
      {waiting.length} {waiting.length === 1 ? "reading waits" : "readings wait"} on this tablet
      {offline ? ", trying again" : ""}
    </span>
  );
}

function withReading(
  set: Schemas["ReadingSetDetail"],
  reading: Schemas["Reading"],
): Schemas["ReadingSetDetail"] {
  const others = set.readings.filter((r) => r.kind !== reading.kind || r.spoke !== reading.spoke);
  return { ...set, readings: reading.withdrawn ? others : [...others, reading] };
}

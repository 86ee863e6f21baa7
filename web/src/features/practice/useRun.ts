import { useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { keys } from "@/api/keys";
import { useWrite } from "@/write/useWrite";

export type Deed = Schemas["DeedRequest"];
type Run = Schemas["PracticeRun"];

/** What is done to a practice wheel: one after another, each press its own deed, and the wheel as it answers. */
export function useDeeds(runId: string) {
  const queries = useQueryClient();
  const count = useRef(0);
  const write = useWrite({
    send: ({ deed }: { deed: Deed; press: number }, head) =>
      answer(
        client.POST("/api/v1/practice/runs/{run_id}/deeds", {
          params: { path: { run_id: runId } },
          body: deed,
          ...head,
        }),
      ),
    onSaved: (now) => {
      queries.setQueryData<Run>(keys.practiceRun(runId), (run) => run && { ...run, now });
      if (now.marks) {
        void queries.invalidateQueries({ queryKey: keys.practice(), exact: true });
        void queries.invalidateQueries({ queryKey: keys.learners() });
      }
    },
  });
  // Two presses are two turns, also where they are alike.
  const act = (deed: Deed) => write.go({ deed, press: ++count.current });
  return { act, write };
}

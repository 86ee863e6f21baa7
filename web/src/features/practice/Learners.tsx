import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { keys } from "@/api/keys";
import { askPractice } from "@/api/practiceQueries";
import { Button } from "@/ui/Button";
import { PickField } from "@/ui/Field";
import { IfFailed } from "@/ui/NotYet";
import { useWrite, WriteState } from "@/write/useWrite";
import { Dots } from "./Dots";

/** Who has mastered what, and what is set for whom. */
export function Learners({ rungs }: { rungs: Schemas["Rung"][] }) {
  const learners = useQuery(askPractice.learners());
  const [person, setPerson] = useState("");
  const [exercise, setExercise] = useState(rungs[0]?.key ?? "");
  const set = useWrite({
    fills: () => keys.learners(),
    touches: [keys.practice()],
    send: (body: Schemas["NewTaskRequest"], head) =>
      answer(client.POST("/api/v1/practice/tasks", { body, ...head })),
  });
  const back = useWrite({
    fills: () => keys.learners(),
    touches: [keys.practice()],
    send: (task_id: string, head) =>
      answer(
        client.POST("/api/v1/practice/tasks/{task_id}/taken-back", {
          params: { path: { task_id } },
          ...head,
        }),
      ),
  });
  const people = learners.data ?? [];
  const chosen = person || (people.find(({ role }) => role === "apprentice") ?? people[0])?.id || "";
  return (
    <section aria-label={say`Who has mastered what`} className="flex flex-col gap-3">
      <h2>
        <Trans>Who has mastered what</Trans>
      </h2>
      <IfFailed of={learners} />
      <div
        className="overflow-x-auto"
        tabIndex={0}
        role="group"
        aria-label={say`Marks by exercise and person`}
      >
        <table className="w-full text-sm">
          <thead>
            <tr>
              <th scope="col" className="text-left">
                <Trans>Exercise</Trans>
              </th>
              {people.map(({ id, name }) => (
                <th key={id} scope="col" className="px-2 text-left">
                  {name}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rungs.map((rung, i) => (
              <tr key={rung.key} className="border-t border-line">
                <th scope="row" className="py-1 text-left font-normal">
                  {rung.name}
                </th>
                {people.map(({ id, standings }) => {
                  const at = standings[i];
                  return (
                    <td key={id} className="px-2">
                      <Dots mark={at?.best ?? null} />
                      {at?.mastered && (
                        <strong>
                          {" "}
                          <span aria-hidden="true">✓</span>
                          <span className="sr-only">
                            <Trans>mastered</Trans>
                          </span>
                        </strong>
                      )}
                      {at?.set_by && <span className="text-muted"> {say`set`}</span>}
                    </td>
                  );
                })}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <div className="flex flex-wrap items-end gap-3">
        <PickField
          label={say`For`}
          value={chosen}
          onChange={setPerson}
          options={people.map(({ id, name }) => ({ value: id, text: name }))}
        />
        <PickField
          label={say`Exercise`}
          value={exercise}
          onChange={setExercise}
          options={rungs.map(({ key, name }) => ({ value: key, text: name }))}
        />
        <Button
          disabled={!chosen || !exercise || set.pending}
          onClick={() => set.go({ person: chosen, exercise })}
        >
          <Trans>Set it</Trans>
        </Button>
      </div>
      <WriteState of={set} />
      <WriteState of={back} />
      <ul className="flex flex-col gap-1">
        {people.flatMap(({ name, standings }) =>
          standings.map(
            (at, i) =>
              at.task && (
                <li key={at.task} className="flex flex-wrap items-center justify-between gap-2 text-sm">
                  <Trans>
                    {name}: {rungs[i]?.name}, set by {at.set_by}
                  </Trans>
                  <Button weight="quiet" onClick={() => at.task && back.go(at.task)}>
                    <Trans>Take back</Trans>
                  </Button>
                </li>
              ),
          ),
        )}
      </ul>
    </section>
  );
}

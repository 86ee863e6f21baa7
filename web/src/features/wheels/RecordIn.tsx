import { Trans } from "@lingui/react/macro";
import { useWrite } from "@/write/useWrite";
import { touches } from "@/api/keys";
import { type ChangeEvent, useId } from "react";
import { useNavigate } from "react-router";
import { answer, client, type Schemas } from "@/api/client";
import { Problem, sentenceOf } from "@/api/problem";
import { Notice } from "@/ui/Notice";
import { figure } from "@/ui/number";

const MOST_BYTES = 2_000_000;

/** Take a wheel record from a file into this job: its wheel and its readings, all or nothing. */
export function RecordIn({ job }: { job: Schemas["Job"] }) {
  const id = useId();
  const navigate = useNavigate();
  const read = useWrite({
    touches: touches.everything(),
    send: async (file: File, head) => {
      if (file.size > MOST_BYTES)
        throw new Error(
          `A wheel record has at most ${MOST_BYTES / 1e6} MB; this file has ${figure(file.size / 1e6, 1)} MB.`,
        );
      const text = await file.text();
      return answer(
        client.POST("/api/v1/jobs/{job_id}/record", {
          params: { path: { job_id: job.id } },
          headers: { ...head.headers, "Content-Type": "application/json" },
          body: {},
          bodySerializer: () => text,
        }),
      );
    },
    onSaved: async () => {
      await navigate(`/jobs/${job.id}`);
    },
  });
  const pick = (event: ChangeEvent<HTMLInputElement>) => {
    const file = event.target.files?.[0];
    if (file) read.go(file);
    event.target.value = "";
  };
  const where = read.error instanceof Problem ? read.error.errors[0]?.field : "";
  return (
    <div className="mt-auto flex flex-col gap-1 text-sm">
      <label htmlFor={id} className="font-bold">
        <Trans>Or take a wheel record from a file</Trans>
      </label>
      <input
        id={id}
        type="file"
        accept="application/json,.json"
        onChange={pick}
        className="min-h-12 text-sm"
      />
      {read.error && (
        <Notice kind="refusal">
          {where && <code className="font-figure">{where}: </code>}
          {sentenceOf(read.error)}
        </Notice>
      )}
    </div>
  );
}

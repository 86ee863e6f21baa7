import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { touches } from "@/api/keys";
import { Problem } from "@/api/problem";
import { Button } from "@/ui/Button";
import { TextField } from "@/ui/Field";
import { Notice } from "@/ui/Notice";
import { useWrite, WriteState } from "@/write/useWrite";

/** Asked before the first spoke goes into a rim or hub that is not to be ridden. */
export function InVain({ jobId, why }: { jobId: string; why: string[] }) {
  const [despite, setDespite] = useState("");
  const word = useWrite({
    touches: touches.job(jobId),
    send: (body: Schemas["LaceDespiteRequest"], head) =>
      answer(
        client.PUT("/api/v1/jobs/{job_id}/lacing/despite", {
          params: { path: { job_id: jobId } },
          ...head,
          body,
        }),
      ),
  });
  const error = word.error instanceof Problem ? word.error.for("despite") : undefined;
  return (
    <Notice kind="caution">
      <Trans>Lacing makes no sense on it. {why.join(" ")}</Trans>
      <form
        className="mt-3 flex flex-wrap items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          word.go({ despite });
        }}
      >
        <TextField
          label={say`Why it is laced all the same`}
          value={despite}
          onChange={setDespite}
          error={error}
          maxLength={300}
          className="flex-1"
        />
        <Button type="submit" disabled={word.pending || !despite.trim()}>
          <Trans>Lace it all the same</Trans>
        </Button>
      </form>
      {!error && <WriteState of={word} />}
    </Notice>
  );
}

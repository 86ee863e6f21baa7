import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useWrite } from "@/write/useWrite";
import { touches } from "@/api/keys";
import { useNavigate } from "react-router";
import { answer, client, type Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { Menu, MenuItem } from "@/ui/Menu";

export function useOpenSet(jobId: string) {
  const navigate = useNavigate();
  return useWrite({
    touches: touches.job(jobId),
    send: (stage: Schemas["SetStageEnum"], head) =>
      answer(
        client.POST("/api/v1/jobs/{job_id}/reading-sets", {
          params: { path: { job_id: jobId } },
          ...head,
          body: { stage },
        }),
      ),
    onSaved: async (set) => {
      await navigate(`/jobs/${jobId}/readings/${set.id}`);
    },
  });
}

/** Measure again: after this pass, or already as the wheel leaves. */
export function NextSet({ jobId, weight }: { jobId: string; weight: "now" | "plain" }) {
  const open = useOpenSet(jobId);
  return (
    <>
      <Button weight={weight} onClick={() => open.go("after_pass")} disabled={open.pending}>
        <Trans>Measure again</Trans>
      </Button>
      <Menu label={say`Measure as`} trigger={say`as …`}>
        <MenuItem onSelect={() => open.go("after_pass")}>
          <Trans>After a pass</Trans>
        </MenuItem>
        <MenuItem onSelect={() => open.go("as_left")}>
          <Trans>As left</Trans>
        </MenuItem>
      </Menu>
    </>
  );
}

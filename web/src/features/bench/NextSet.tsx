import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { answer, client, type Schemas, writeKey } from "@/api/client";
import { Button } from "@/ui/Button";
import { Menu, MenuItem } from "@/ui/Menu";

export function useOpenSet(jobId: string) {
  const queries = useQueryClient();
  const navigate = useNavigate();
  return useMutation({
    mutationFn: (stage: Schemas["SetStageEnum"]) =>
      answer(
        client.POST("/api/v1/jobs/{job_id}/reading-sets", {
          params: { path: { job_id: jobId } },
          headers: { "Idempotency-Key": writeKey() },
          body: { stage },
        }),
      ),
    onSuccess: async (set) => {
      await queries.invalidateQueries({ queryKey: ["sets", jobId] });
      await queries.invalidateQueries({ queryKey: ["job", jobId] });
      await navigate(`/jobs/${jobId}/readings/${set.id}`);
    },
  });
}

/** Measure again: after this pass, or already as the wheel leaves. */
export function NextSet({ jobId, weight }: { jobId: string; weight: "now" | "plain" }) {
  const open = useOpenSet(jobId);
  return (
    <>
      <Button weight={weight} onClick={() => open.mutate("after_pass")} disabled={open.isPending}>
        Measure again
      </Button>
      <Menu label="Measure as" trigger="as …">
        <MenuItem onSelect={() => open.mutate("after_pass")}>After a pass</MenuItem>
        <MenuItem onSelect={() => open.mutate("as_left")}>As left</MenuItem>
      </Menu>
    </>
  );
}

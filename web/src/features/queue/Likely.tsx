import { Trans } from "@lingui/react/macro";
import { keys } from "@/api/keys";
import { useQuery } from "@tanstack/react-query";
import { answer, client, type Schemas } from "@/api/client";
import { Notice } from "@/ui/Notice";
import { within } from "@/ui/words";

interface LikelyProps {
  tags: readonly Schemas["ComplaintTagsEnum"][];
  wheelId: string;
  brake: Schemas["BrakeEnum"];
  position: "front" | "rear";
}

/** At the counter: what probably stands behind the complaint, and whether it may be ridden till then. */
export function Likely({ tags, wheelId, brake, position }: LikelyProps) {
  const body: Schemas["CounterQuestionRequest"] = wheelId
    ? { complaint_tags: [...tags], wheel_id: wheelId }
    : { complaint_tags: [...tags], brake, position };
  const found = useQuery({
    queryKey: keys.sum("likely", body),
    queryFn: () => answer(client.POST("/api/v1/likely-causes", { body })),
    enabled: tags.length > 0,
    placeholderData: (old) => old,
  });
  if (tags.length === 0 || !found.data)
    return (
      <Notice kind="caution">
        <Trans>Nobody rides home on a broken spoke, a cracked rim or a loose axle.</Trans>
      </Notice>
    );
  const { causes, unsafe, history } = found.data;
  return (
    <div aria-live="polite" className="flex flex-col gap-2">
      <p className="text-sm">
        <strong>
          <Trans>Probably:</Trans>
        </strong>{" "}
        {causes.slice(0, 3).map((c, i) => (
          <span key={c.key}>
            {i > 0 && ", "}
            {within(c.name)} <span className="font-figure text-muted">{Math.round(c.share * 100)} %</span>
          </span>
        ))}
        .{" "}
        {history.length > 0 && (
          <span className="text-muted">
            <Trans>Its history: {history.join("; ")}.</Trans>
          </span>
        )}
      </p>
      {unsafe.length > 0 ? (
        <Notice kind="caution">
          <Trans>Not to be ridden until ruled out: {unsafe.map(within).join(", ")}.</Trans>
        </Notice>
      ) : (
        <Notice kind="caution">
          <Trans>Nobody rides home on a broken spoke, a cracked rim or a loose axle.</Trans>
        </Notice>
      )}
    </div>
  );
}

import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { keys, touches } from "@/api/keys";
import { ask } from "@/api/queries";
import { Button } from "@/ui/Button";
import { typedNumber } from "@/ui/number";
import { NumberField } from "@/ui/NumberField";
import { IfFailed } from "@/ui/NotYet";
import { WriteState, useWrite } from "@/write/useWrite";

/** After how long a wheel counts as not fetched, and how long an ended job may be taken up again. */
export function ShopRules({ owner }: { owner: boolean }) {
  const rules = useQuery(ask.rules());
  if (!rules.data) return <IfFailed of={rules} />;
  return <Rules key={JSON.stringify(rules.data)} rules={rules.data} owner={owner} />;
}

function Rules({ rules, owner }: { rules: Schemas["Rules"]; owner: boolean }) {
  const [unfetched, setUnfetched] = useState(String(rules.unfetched_days));
  const [reopen, setReopen] = useState(String(rules.reopen_days));
  const save = useWrite({
    touches: touches.rules(),
    send: (body: Schemas["Rules"], head) => answer(client.PUT("/api/v1/shop/rules", { ...head, body })),
    fills: () => keys.rules(),
  });
  const submit = (event: FormEvent) => {
    event.preventDefault();
    save.go({ unfetched_days: typedNumber(unfetched) ?? -1, reopen_days: typedNumber(reopen) ?? -1 });
  };
  return (
    <form onSubmit={submit} className="mt-8 flex flex-col gap-2" aria-label={say`Rules for ends`}>
      <h2>
        <Trans>When jobs end</Trans>
      </h2>
      <div className="grid grid-cols-1 gap-x-6 gap-y-2 md:grid-cols-2">
        <NumberField
          label={say`Not fetched after, days`}
          help={say`Quiet days after which the owner may end a job as not fetched. The law of the place comes first.`}
          value={unfetched}
          disabled={!owner}
          onChange={setUnfetched}
          error={save.refused?.for("unfetched_days")}
        />
        <NumberField
          label={say`Taken up again within, days`}
          help={say`Later the wheel gets a new job.`}
          value={reopen}
          disabled={!owner}
          onChange={setReopen}
          error={save.refused?.for("reopen_days")}
        />
      </div>
      <WriteState of={save} fields={["unfetched_days", "reopen_days"]} />
      {owner && (
        <div>
          <Button type="submit" disabled={save.pending}>
            <Trans>Save the rules</Trans>
          </Button>
          {save.saved && (
            <span className="ml-3 text-muted">
              <Trans>Saved.</Trans>
            </span>
          )}
        </div>
      )}
    </form>
  );
}

import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQueryClient } from "@tanstack/react-query";
import { typedNumber } from "@/ui/number";
import { NumberField } from "@/ui/NumberField";
import { useWrite } from "@/write/useWrite";
import { keys, touches } from "@/api/keys";
import { useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { sentenceOf } from "@/api/problem";
import { Button } from "@/ui/Button";
import { PickField } from "@/ui/Field";
import { Notice } from "@/ui/Notice";

type Bike = Schemas["Bike"];
const DROPOUTS = [
  { value: "", text: say`not noted` },
  { value: "vertical", text: say`vertical slots` },
  { value: "horizontal", text: say`horizontal slots` },
  { value: "through", text: say`through-axle holes` },
];
const AXLES = [
  { value: "", text: say`not noted` },
  { value: "quick", text: say`quick-release` },
  { value: "nuts", text: say`nuts` },
  { value: "through", text: say`through-axle` },
];
const TYRES = [
  { value: "", text: say`not noted` },
  { value: "tubed", text: say`with tube` },
  { value: "tubeless", text: say`tubeless` },
  { value: "glued", text: say`glued` },
];

/** What the list is fitted to; a change refits it at once. */
export function BikeFacts({ bike, jobId, closed }: { bike: Bike; jobId: string; closed: boolean }) {
  const [torque, setTorque] = useState(bike.axle_torque_nm === null ? "" : String(bike.axle_torque_nm ?? ""));
  const queries = useQueryClient();
  const send = useWrite({
    touches: touches.job(jobId),
    send: (body: Partial<Schemas["PatchedBikeChangeRequest"]>, head) =>
      answer(
        client.PATCH("/api/v1/bikes/{bike_id}", {
          params: { path: { bike_id: bike.id } },
          ...head,
          body: { version: bike.version, ...body },
        }),
      ),
    // Somebody else may have changed the bike: what stands there now is shown beside the refusal.
    onRefused: () => void queries.invalidateQueries({ queryKey: keys.job(jobId) }),
  });
  const number = torque.trim() === "" ? null : (typedNumber(torque) ?? NaN);
  const bad = number !== null && Number.isNaN(number);
  const problem = send.refused;
  return (
    <fieldset disabled={closed} className="flex flex-col gap-1">
      <legend className="mb-1 text-lg font-bold">
        <Trans>This bike</Trans>
      </legend>
      <PickField
        label={say`Dropouts`}
        value={bike.dropout ?? ""}
        options={DROPOUTS}
        onChange={(v) => send.go({ dropout: v as NonNullable<Bike["dropout"]> })}
      />
      <PickField
        label={say`Axle`}
        value={bike.axle ?? ""}
        options={AXLES}
        onChange={(v) => send.go({ axle: v as NonNullable<Bike["axle"]> })}
      />
      <form
        className="flex items-start gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (!bad) send.go({ axle_torque_nm: number });
        }}
      >
        <NumberField
          label={say`Axle torque, N·m`}
          min={0}
          unit="N·m"
          value={torque}
          onChange={setTorque}
          error={bad ? say`Enter a number` : problem?.for("axle_torque_nm")}
          help={say`Its maker's figure; empty where not known`}
          className="flex-1"
        />
        <Button type="submit" className="mt-6">
          <Trans>Set</Trans>
        </Button>
      </form>
      <PickField
        label={say`Tyre`}
        value={bike.tyre ?? ""}
        options={TYRES}
        onChange={(v) => send.go({ tyre: v as NonNullable<Bike["tyre"]> })}
      />
      <label className="flex min-h-12 items-center gap-3">
        <Trans>
          <input
            type="checkbox"
            className="size-6 accent-ink"
            checked={bike.directional ?? false}
            onChange={(event) => send.go({ directional: event.target.checked })}
          />
          its tread has a direction
        </Trans>
      </label>
      {problem && !problem.for("axle_torque_nm") && <Notice kind="refusal">{sentenceOf(problem)}</Notice>}
    </fieldset>
  );
}

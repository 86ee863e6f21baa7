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
  { value: "", text: "not noted" },
  { value: "vertical", text: "vertical slots" },
  { value: "horizontal", text: "horizontal slots" },
  { value: "through", text: "through-axle holes" },
];
const AXLES = [
  { value: "", text: "not noted" },
  { value: "quick", text: "quick-release" },
  { value: "nuts", text: "nuts" },
  { value: "through", text: "through-axle" },
];
const TYRES = [
  { value: "", text: "not noted" },
  { value: "tubed", text: "with tube" },
  { value: "tubeless", text: "tubeless" },
  { value: "glued", text: "glued" },
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
      <legend className="mb-1 text-lg font-bold">This bike</legend>
      <PickField
        label="Dropouts"
        value={bike.dropout ?? ""}
        options={DROPOUTS}
        onChange={(v) => send.go({ dropout: v as NonNullable<Bike["dropout"]> })}
      />
      <PickField
        label="Axle"
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
          label="Axle torque, N·m"
          min={0}
          unit="N·m"
          value={torque}
          onChange={setTorque}
          error={bad ? "Enter a number" : problem?.for("axle_torque_nm")}
          help="Its maker's figure; empty where not known"
          className="flex-1"
        />
        <Button type="submit" className="mt-6">
          Set
        </Button>
      </form>
      <PickField
        label="Tyre"
        value={bike.tyre ?? ""}
        options={TYRES}
        onChange={(v) => send.go({ tyre: v as NonNullable<Bike["tyre"]> })}
      />
      <label className="flex min-h-12 items-center gap-3">
        <input
          type="checkbox"
          className="size-6 accent-ink"
          checked={bike.directional ?? false}
          onChange={(event) => send.go({ directional: event.target.checked })}
        />
        its tread has a direction
      </label>
      {problem && !problem.for("axle_torque_nm") && <Notice kind="refusal">{sentenceOf(problem)}</Notice>}
    </fieldset>
  );
}

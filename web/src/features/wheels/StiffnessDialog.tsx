import { typedNumber } from "@/ui/number";
import { NumberField } from "@/ui/NumberField";
import { useWrite } from "@/write/useWrite";
import { useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { sentenceOf } from "@/api/problem";
import { Button } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { Dialog } from "@/ui/Dialog";
import { PickField } from "@/ui/Field";
import { Notice } from "@/ui/Notice";
import type { Specification } from "./draft";

type Stiffness = Schemas["Stiffness"];
type Way = "section" | "hang";

interface StiffnessDialogProps {
  specification: Specification;
  onTake: (found: Stiffness) => void;
  onClose: () => void;
}

/** How stiff is this rim: by its section, or by a weight hung from it and a dial. */
export function StiffnessDialog({ specification, onTake, onClose }: StiffnessDialogProps) {
  const [way, setWay] = useState<Way>("hang");
  const [fields, setFields] = useState<Record<string, string>>({
    width_mm: "18",
    height_mm: "12",
    wall_mm: "1.2",
    mass_kg: "10",
    measured_mm: "",
  });
  const [material, setMaterial] = useState<Schemas["BoxSectionRequest"]["material"]>(
    specification.rim.material ?? "aluminium",
  );
  const [how, setHow] = useState<"sideways" | "in_plane">("sideways");
  const number = (name: string) => typedNumber(fields[name] ?? "") ?? NaN;
  const work = useWrite<void, Stiffness & { factor?: number; predicted_mm?: number }>({
    send: () =>
      way === "section"
        ? answer(
            client.POST("/api/v1/rim-section", {
              body: {
                width_mm: number("width_mm"),
                height_mm: number("height_mm"),
                wall_mm: number("wall_mm"),
                material,
              },
            }),
          )
        : answer(
            client.POST("/api/v1/rim-hang-test", {
              body: {
                specification,
                mass_kg: number("mass_kg"),
                measured_mm: number("measured_mm"),
                sideways: how === "sideways",
              },
            }),
          ),
  });
  const problem = work.refused;
  const field = (name: string, label: string, help?: string) => (
    <NumberField
      label={label}
      value={fields[name] ?? ""}
      onChange={(v) => {
        work.reset();
        setFields((f) => ({ ...f, [name]: v }));
      }}
      error={problem?.for(name)}
      help={help}
      className="w-40"
    />
  );
  const found = work.data;
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title="How stiff is this rim?"
      lead="Plans rest on it. Unknown, a kind's usual figures are taken, and each pass corrects them."
    >
      <form
        className="flex flex-col gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          work.go();
        }}
      >
        <Choice<Way>
          label="How it is found"
          value={way}
          onChange={(next) => {
            work.reset();
            setWay(next);
          }}
          options={[
            { value: "hang", text: "hang a weight" },
            { value: "section", text: "by its section" },
          ]}
        />
        {way === "hang" ? (
          <>
            <p className="text-sm text-muted">
              Hold the hub fast, opposite the valve put the dial where the weight will hang, set it to zero,
              hang the weight, read. Sideways: the wheel lies flat. In plane: it stands.
            </p>
            <div className="flex flex-wrap gap-4">
              {field("mass_kg", "Weight, kg")}
              {field("measured_mm", "Dial moves, mm")}
              <Choice
                label="Which way it hangs"
                value={how}
                onChange={setHow}
                options={[
                  { value: "sideways", text: "sideways" },
                  { value: "in_plane", text: "in plane" },
                ]}
                className="mt-6"
              />
            </div>
          </>
        ) : (
          <div className="flex flex-wrap gap-4">
            {field("width_mm", "Width, mm", "of its closed part, along the axle")}
            {field("height_mm", "Height, mm")}
            {field("wall_mm", "Wall, mm")}
            <PickField
              label="Material"
              value={material}
              options={[
                { value: "aluminium", text: "aluminium" },
                { value: "steel", text: "steel" },
                { value: "carbon", text: "carbon" },
              ]}
              onChange={(m) => setMaterial(m as typeof material)}
              className="w-40"
            />
          </div>
        )}
        {problem &&
          !["width_mm", "height_mm", "wall_mm", "mass_kg", "measured_mm"].some((f) => problem.for(f)) && (
            <Notice kind="refusal">{sentenceOf(problem)}</Notice>
          )}
        {found && (
          <p>
            {found.factor !== undefined && (
              <strong>
                {found.factor.toFixed(2)} × what was taken so far (that rim would have moved{" "}
                {found.predicted_mm?.toFixed(2)} mm).{" "}
              </strong>
            )}
            Sideways {found.ei_lat_nm2.toFixed(0)}, in plane {found.ei_rad_nm2.toFixed(0)}, torsion{" "}
            {found.gj_nm2.toFixed(0)} N·m², ±{(100 * found.spread).toFixed(0)} %.
          </p>
        )}
        <div className="flex justify-end gap-3">
          <Button onClick={onClose}>Leave it</Button>
          <Button type="submit" weight={found ? "plain" : "now"} disabled={work.pending}>
            Work it out
          </Button>
          {found && (
            <Button weight="now" onClick={() => onTake(found)}>
              Take it for this rim
            </Button>
          )}
        </div>
      </form>
    </Dialog>
  );
}

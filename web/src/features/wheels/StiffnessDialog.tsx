import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { figure, typedNumber } from "@/ui/number";
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
      title={say`How stiff is this rim?`}
      lead={say`Plans rest on it. Unknown, a kind's usual figures are taken, and each pass corrects them.`}
    >
      <form
        className="flex flex-col gap-4"
        onSubmit={(event) => {
          event.preventDefault();
          work.go();
        }}
      >
        <Choice<Way>
          label={say`How it is found`}
          value={way}
          onChange={(next) => {
            work.reset();
            setWay(next);
          }}
          options={[
            { value: "hang", text: say`hang a weight` },
            { value: "section", text: say`by its section` },
          ]}
        />
        {way === "hang" ? (
          <>
            <p className="text-sm text-muted">
              <Trans>
                Hold the hub fast, opposite the valve put the dial where the weight will hang, set it to zero,
                hang the weight, read. Sideways: the wheel lies flat. In plane: it stands.
              </Trans>
            </p>
            <div className="flex flex-wrap gap-4">
              {field("mass_kg", say`Weight, kg`)}
              {field("measured_mm", say`Dial moves, mm`)}
              <Choice
                label={say`Which way it hangs`}
                value={how}
                onChange={setHow}
                options={[
                  { value: "sideways", text: say`sideways` },
                  { value: "in_plane", text: say`in plane` },
                ]}
                className="mt-6"
              />
            </div>
          </>
        ) : (
          <div className="flex flex-wrap gap-4">
            {field("width_mm", say`Width, mm`, say`of its closed part, along the axle`)}
            {field("height_mm", say`Height, mm`)}
            {field("wall_mm", say`Wall, mm`)}
            <PickField
              label={say`Material`}
              value={material}
              options={[
                { value: "aluminium", text: say`aluminium` },
                { value: "steel", text: say`steel` },
                { value: "carbon", text: say`carbon` },
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
            <Trans>
              {found.factor !== undefined && (
                <strong>
                  <Trans>
                    {figure(found.factor, 2)} × what was taken so far (that rim would have moved{" "}
                    {figure(found.predicted_mm, 2)} mm).{" "}
                  </Trans>
                </strong>
              )}
              Sideways {figure(found.ei_lat_nm2, 0)}, in plane {figure(found.ei_rad_nm2, 0)}, torsion{" "}
              {figure(found.gj_nm2, 0)} N·m², ±{figure(100 * found.spread, 0)} %.
            </Trans>
          </p>
        )}
        <div className="flex justify-end gap-3">
          <Button onClick={onClose}>
            <Trans>Leave it</Trans>
          </Button>
          <Button type="submit" weight={found ? "plain" : "now"} disabled={work.pending}>
            <Trans>Work it out</Trans>
          </Button>
          {found && (
            <Button weight="now" onClick={() => onTake(found)}>
              <Trans>Take it for this rim</Trans>
            </Button>
          )}
        </div>
      </form>
    </Dialog>
  );
}

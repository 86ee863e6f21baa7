import { crossingsWord, word } from "@/ui/words";
import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { NumberField } from "@/ui/NumberField";
import { useState } from "react";
import { Button } from "@/ui/Button";
import { PickField } from "@/ui/Field";
import { DishTarget } from "./DishTarget";
import type { Draft } from "./draft";
import { MagnetDialog } from "./MagnetDialog";

interface SpokesFormProps {
  draft: Draft;
  errorAt: (path: string) => string | undefined;
  onChange: (path: string, value: string) => void;
}

const MATERIALS = [
  { value: "stainless", text: say`stainless` },
  { value: "carbon_steel", text: say`carbon steel` },
  { value: "titanium", text: say`titanium` },
  { value: "aluminium", text: say`aluminium` },
];
const CROSSINGS = ["0", "1", "2", "3", "4"].map((c) => ({
  value: c,
  text: crossingsWord(c),
}));

/** The two sides' spokes, a row each, and the rim maker's tensions. */
export function SpokesForm({ draft, errorAt, onChange }: SpokesFormProps) {
  const text = (path: string, label: string, className = "w-28") => (
    <NumberField
      label={label}
      value={draft[path] ?? ""}
      error={errorAt(path)}
      onChange={(v) => onChange(path, v)}
      className={className}
    />
  );
  const [magnet, setMagnet] = useState<"" | "right" | "left">("");
  return (
    <div className="flex flex-col gap-1">
      {magnet && (
        <MagnetDialog
          side={magnet}
          thickness={
            draft[`${magnet}.spoke.middle_diameter_mm`] || draft[`${magnet}.spoke.end_diameter_mm`] || "2"
          }
          onTake={(material) => {
            onChange(`${magnet}.spoke.material`, material);
            setMagnet("");
          }}
          onClose={() => setMagnet("")}
        />
      )}
      {(["right", "left"] as const).map((side) => (
        <fieldset key={side} className="flex flex-wrap items-start gap-2">
          <legend className="float-left w-20 pt-8 font-bold">
            {side === "right" ? say`● Right` : say`○ Left`}
          </legend>
          {text(`${side}.count`, say`Spokes`, "w-16")}
          <PickField
            label={say`Crossings`}
            value={draft[`${side}.crossings`] ?? "3"}
            options={CROSSINGS}
            onChange={(v) => onChange(`${side}.crossings`, v)}
            error={errorAt(`${side}.crossings`)}
            className="w-28"
          />
          {text(`${side}.spoke.end_diameter_mm`, say`Ends, mm`, "w-[74px]")}
          {text(`${side}.spoke.middle_diameter_mm`, say`Middle`, "w-[74px]")}
          {text(`${side}.spoke.blade_thickness_mm`, say`Blade thick`, "w-[82px]")}
          {text(`${side}.spoke.blade_width_mm`, say`Blade wide`, "w-[82px]")}
          <PickField
            label={say`Material`}
            value={draft[`${side}.spoke.material`] ?? "stainless"}
            options={MATERIALS}
            onChange={(v) => onChange(`${side}.spoke.material`, v)}
            className="w-32"
          />
          <Button className="mt-6 px-2 text-sm" onClick={() => setMagnet(side)}>
            <Trans>By magnet</Trans>
          </Button>
        </fieldset>
      ))}
      <fieldset className="flex flex-wrap items-start gap-2">
        <legend className="float-left w-20 pt-8 font-bold">
          <Trans>Rim</Trans>
        </legend>
        {text("rim.target_n", say`Target, N`)}
        {text("rim.cap_n", say`Limit, N`)}
        <PickField
          label={say`First spoke after the valve`}
          value={draft["first_side"] ?? "R"}
          options={[
            { value: "R", text: say`right, R1` },
            { value: "L", text: say`left, L1` },
          ]}
          onChange={(v) => onChange("first_side", v)}
          error={errorAt("first_side")}
          className="w-48"
        />
        <DishTarget
          value={draft["dish_target_mm"] ?? ""}
          old={draft["hub.old_mm"] ?? ""}
          error={errorAt("dish_target_mm")}
          onChange={(v) => onChange("dish_target_mm", v)}
        />
        {text("rim.stagger_mm", say`Stagger, mm`, "w-24")}
        <PickField
          label={say`Rim of`}
          value={draft["rim.material"] ?? "aluminium"}
          options={["aluminium", "carbon", "steel"].map((m) => ({ value: m, text: word(m) }))}
          onChange={(v) => onChange("rim.material", v)}
          className="w-36"
        />
      </fieldset>
      <fieldset className="flex flex-wrap items-start gap-2">
        <legend className="float-left w-20 pt-8 font-bold">
          <Trans>Hub</Trans>
        </legend>
        {text("hub.left.hole_diameter_mm", say`Left hole`, "w-24")}
        {text("hub.right.hole_diameter_mm", say`Right hole`, "w-24")}
        {text("hub.left.straight_pull_angle_deg", say`Left straight-pull angle, °`, "w-48")}
        {text("hub.right.straight_pull_angle_deg", say`Right straight-pull angle, °`, "w-48")}
        <p className="max-w-xs pt-7 text-sm text-muted">
          <Trans>
            Angle by the hub&rsquo;s own drawing; empty for elbows. Empty tensions: 1000 N and 1200 N, common
            practice.
          </Trans>
        </p>
      </fieldset>
    </div>
  );
}

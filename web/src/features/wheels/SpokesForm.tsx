import { useState } from "react";
import { Button } from "@/ui/Button";
import { PickField, TextField } from "@/ui/Field";
import { DishTarget } from "./DishTarget";
import type { Draft } from "./draft";
import { MagnetDialog } from "./MagnetDialog";

interface SpokesFormProps {
  draft: Draft;
  errorAt: (path: string) => string | undefined;
  onChange: (path: string, value: string) => void;
}

const MATERIALS = [
  { value: "stainless", text: "stainless" },
  { value: "carbon_steel", text: "carbon steel" },
  { value: "titanium", text: "titanium" },
  { value: "aluminium", text: "aluminium" },
];
const CROSSINGS = ["0", "1", "2", "3", "4"].map((c) => ({
  value: c,
  text: c === "0" ? "radial" : `${c}-cross`,
}));

/** The two sides' spokes, a row each, and the rim maker's tensions. */
export function SpokesForm({ draft, errorAt, onChange }: SpokesFormProps) {
  const text = (path: string, label: string, className = "w-28") => (
    <TextField
      label={label}
      value={draft[path] ?? ""}
      inputMode="decimal"
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
        <fieldset key={side} className="flex flex-wrap items-start gap-3">
          <legend className="float-left w-24 pt-8 font-bold">
            {side === "right" ? "● Right" : "○ Left"}
          </legend>
          {text(`${side}.count`, "Spokes", "w-20")}
          <PickField
            label="Crossings"
            value={draft[`${side}.crossings`] ?? "3"}
            options={CROSSINGS}
            onChange={(v) => onChange(`${side}.crossings`, v)}
            error={errorAt(`${side}.crossings`)}
            className="w-32"
          />
          {text(`${side}.spoke.end_diameter_mm`, "Ends, mm", "w-24")}
          {text(`${side}.spoke.middle_diameter_mm`, "Middle, mm", "w-24")}
          {text(`${side}.spoke.blade_thickness_mm`, "Blade thick", "w-24")}
          {text(`${side}.spoke.blade_width_mm`, "Blade wide", "w-24")}
          <PickField
            label="Material"
            value={draft[`${side}.spoke.material`] ?? "stainless"}
            options={MATERIALS}
            onChange={(v) => onChange(`${side}.spoke.material`, v)}
            className="w-36"
          />
          <Button className="mt-6 text-sm" onClick={() => setMagnet(side)}>
            By magnet
          </Button>
        </fieldset>
      ))}
      <fieldset className="flex flex-wrap items-start gap-3">
        <legend className="float-left w-24 pt-8 font-bold">Rim</legend>
        {text("rim.target_n", "Target, N")}
        {text("rim.cap_n", "Limit, N")}
        <PickField
          label="First spoke after the valve"
          value={draft["first_side"] ?? "R"}
          options={[
            { value: "R", text: "right, R1" },
            { value: "L", text: "left, L1" },
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
        <p className="w-56 pt-7 text-sm text-muted">
          Tensions: the rim maker&rsquo;s, tight side. Left empty: 1000 N and 1200 N, common practice.
        </p>
      </fieldset>
    </div>
  );
}

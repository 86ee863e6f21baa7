import { t as say } from "@lingui/core/macro";
import { figure, typedNumber } from "@/ui/number";
import { NumberField } from "@/ui/NumberField";
import { useState } from "react";
import { PickField } from "@/ui/Field";
import { StatedTarget } from "./StatedTarget";

interface DishTargetProps {
  /** Millimetres right (+) of the middle of the locknuts, as text; empty or 0 for the middle. */
  value: string;
  old: string;
  error: string | undefined;
  onChange: (value: string) => void;
}

/** Where the rim belongs: in the middle, or aside by design; said by side and never by sign, or as its drawing states it. */
export function DishTarget({ value, old, error, onChange }: DishTargetProps) {
  const number = typedNumber(value) ?? 0;
  const [way, setWay] = useState(number > 0 ? "right" : number < 0 ? "left" : "middle");
  const [size, setSize] = useState(number ? String(Math.abs(number)) : "");
  const change = (nextWay: string, nextSize: string) => {
    setWay(nextWay);
    setSize(nextSize);
    if (nextWay === "stated") return;
    const mm = typedNumber(nextSize) ?? NaN;
    if (nextWay === "middle" || nextSize.trim() === "") onChange("0");
    else onChange(Number.isNaN(mm) ? nextSize : String(nextWay === "left" ? -mm : mm));
  };
  const half = (typedNumber(old) ?? NaN) / 2;
  const face = half - number;
  return (
    <div className="flex flex-wrap items-start gap-2">
      <PickField
        label={say`Rim belongs`}
        value={way}
        options={[
          { value: "middle", text: say`in the middle` },
          { value: "right", text: say`to the right` },
          { value: "left", text: say`to the left` },
          { value: "stated", text: say`as a drawing says` },
        ]}
        onChange={(w) => change(w, size)}
        className="w-44"
      />
      {way === "stated" && (
        <StatedTarget
          old={old}
          onTake={(mm) => {
            onChange(String(mm));
            setWay(mm > 0 ? "right" : mm < 0 ? "left" : "middle");
            setSize(mm ? String(Math.abs(mm)) : "");
          }}
        />
      )}
      {(way === "right" || way === "left") && (
        <NumberField
          label={say`by, mm`}
          value={size}
          error={error}
          onChange={(s) => change(way, s)}
          help={
            Number.isFinite(face) && number
              ? say`${figure(face, 1)} from the right face`
              : say`By its drawing`
          }
          className="w-32"
        />
      )}
    </div>
  );
}

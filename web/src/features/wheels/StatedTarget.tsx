import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useState } from "react";
import { answer, client } from "@/api/client";
import { Button } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { typedNumber } from "@/ui/number";
import { NumberField } from "@/ui/NumberField";
import { useWrite, WriteState } from "@/write/useWrite";

interface StatedTargetProps {
  old: string;
  onTake: (mm: number) => void;
}

type From = "face" | "edge";
type To = "edge" | "middle";

/** Where the rim belongs as a drawing or the owner says it: from a locknut, or from the edge of a drum, gear or rotor. */
export function StatedTarget({ old, onTake }: StatedTargetProps) {
  const [side, setSide] = useState<"R" | "L">("R");
  const [from, setFrom] = useState<From>("face");
  const [to, setTo] = useState<To>("edge");
  const [inside, setInside] = useState("");
  const [distance, setDistance] = useState("");
  const [width, setWidth] = useState("");
  const find = useWrite({
    send: (body: {
      old_mm: number;
      side: "R" | "L";
      edge_inside_mm: number;
      distance_mm: number;
      rim_width_mm: number;
    }) => answer(client.POST("/api/v1/measure/rim-place", { body })),
    onSaved: (found) => onTake(found.dish_target_mm),
  });
  const [old_mm, edge_inside_mm, distance_mm, rim_width_mm] = [
    typedNumber(old),
    from === "face" ? 0 : typedNumber(inside),
    typedNumber(distance),
    to === "middle" ? 0 : typedNumber(width),
  ];
  const ready = old_mm !== null && edge_inside_mm !== null && distance_mm !== null && rim_width_mm !== null;
  return (
    <div
      role="group"
      aria-label={say`Where the rim belongs, as it is stated`}
      className="flex flex-wrap items-start gap-3 rounded-sm border border-line bg-plate p-3"
    >
      <Choice
        label={say`From which side`}
        value={side}
        onChange={setSide}
        options={[
          { value: "R", text: say`right` },
          { value: "L", text: say`left` },
        ]}
      />
      <Choice<From>
        label={say`From what`}
        value={from}
        onChange={setFrom}
        options={[
          { value: "face", text: say`locknut` },
          { value: "edge", text: say`drum, gear or rotor` },
        ]}
      />
      <Choice<To>
        label={say`To what`}
        value={to}
        onChange={setTo}
        options={[
          { value: "edge", text: say`rim's edge` },
          { value: "middle", text: say`rim's middle` },
        ]}
      />
      {from === "edge" && (
        <NumberField
          label={say`Its edge inside the locknut, mm`}
          value={inside}
          onChange={setInside}
          error={find.refused?.for("edge_inside_mm")}
          help={say`From the locknut's face inward to the edge`}
          className="w-56"
        />
      )}
      <NumberField
        label={
          to === "edge" ? say`From there to the rim's near edge, mm` : say`From there to the rim's middle, mm`
        }
        value={distance}
        onChange={setDistance}
        error={find.refused?.for("distance_mm")}
        className="w-64"
      />
      {to === "edge" && (
        <NumberField
          label={say`Rim over its edges, mm`}
          value={width}
          onChange={setWidth}
          error={find.refused?.for("rim_width_mm")}
          min={0}
          className="w-44"
        />
      )}
      <Button
        className="mt-6"
        disabled={!ready || find.pending}
        onClick={() => ready && find.go({ old_mm, side, edge_inside_mm, distance_mm, rim_width_mm })}
      >
        <Trans>Work it out</Trans>
      </Button>
      {old_mm === null && (
        <p className="self-center text-sm">
          <Trans>The over-locknut width comes first.</Trans>
        </p>
      )}
      <WriteState of={find} fields={["edge_inside_mm", "distance_mm", "rim_width_mm"]} />
    </div>
  );
}

import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { WriteState } from "@/write/useWrite";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import type { Schemas } from "@/api/client";
import { ask } from "@/api/queries";
import { useStock } from "@/features/stock/useStock";
import { Button } from "@/ui/Button";
import { PickField, TextField } from "@/ui/Field";
import type { Draft, Specification } from "./draft";

interface LibraryPartsProps {
  draft: Draft;
  specification: Specification;
  onFill: (values: Record<string, string>) => void;
}

const RIM = ["erd_mm", "bead_seat_mm", "spoke_bed_offset_mm", "stagger_mm", "target_n", "cap_n", "material"];
const HUB = ["pitch_circle_mm", "center_to_flange_mm"];

/** A rim or a hub of the shop's own parts library fills in its dimensions; and one measured here can be kept there. */
export function LibraryParts({ draft, specification, onFill }: LibraryPartsProps) {
  const stock = useQuery(ask.stock());
  const { add } = useStock();
  const [keeping, setKeeping] = useState<"" | "rim" | "hub">("");
  const [name, setName] = useState("");
  const parts = stock.data?.parts ?? [];
  const pick = (kind: "rim" | "hub") => (
    <PickField
      label={kind === "rim" ? say`Rim from our parts` : say`Hub from our parts`}
      value=""
      options={[
        { value: "", text: "–" },
        ...parts.filter((p) => p.kind === kind).map((p) => ({ value: p.id, text: p.name })),
      ]}
      onChange={(id) => {
        const part = parts.find((p) => p.id === id);
        if (part) onFill(kind === "rim" ? rimFields(part) : hubFields(part));
      }}
    />
  );
  const keep = () => {
    if (!keeping) return;
    add.go(
      {
        kind: keeping,
        name,
        attributes: keeping === "rim" ? rimOf(draft, specification) : hubOf(specification),
      },
      () => setKeeping(""),
    );
  };
  return (
    <section aria-label={say`Parts library`} className="flex flex-col gap-2 border-t border-line pt-2">
      <div className="grid grid-cols-2 gap-2">
        {pick("rim")}
        {pick("hub")}
      </div>
      {keeping ? (
        <form
          className="flex items-start gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            keep();
          }}
        >
          <TextField
            label={say`Name of the ${keeping}`}
            value={name}
            onChange={setName}
            autoFocus
            className="flex-1"
          />
          <Button type="submit" className="mt-6" disabled={!name.trim() || add.pending}>
            <Trans>Keep</Trans>
          </Button>
        </form>
      ) : (
        <p className="text-sm">
          <Trans>
            Keep this{" "}
            <button type="button" className="tap justify-center underline" onClick={() => setKeeping("rim")}>
              rim
            </button>{" "}
            or{" "}
            <button type="button" className="tap justify-center underline" onClick={() => setKeeping("hub")}>
              hub
            </button>{" "}
            in our parts.
          </Trans>
        </p>
      )}
      <WriteState of={add} />
      {add.data && !keeping && (
        <p className="text-sm" role="status">
          <Trans>{add.data.name} is kept.</Trans>
        </p>
      )}
    </section>
  );
}

function shown(value: unknown): string {
  return typeof value === "number" || typeof value === "string" ? String(value) : "";
}

function rimFields(part: Schemas["StockPart"]): Record<string, string> {
  return Object.fromEntries(RIM.map((name) => [`rim.${name}`, shown(part.attributes[name])]));
}

function hubFields(part: Schemas["StockPart"]): Record<string, string> {
  const out: Record<string, string> = { "hub.old_mm": shown(part.attributes["old_mm"]) };
  for (const side of ["right", "left"]) {
    for (const name of HUB) out[`hub.${side}.${name}`] = shown(part.attributes[`${side}_${name}`]);
    out[`hub.${side}.hole_diameter_mm`] = shown(part.attributes["hole_diameter_mm"] ?? 2.6);
    out[`hub.${side}.straight_pull_angle_deg`] = shown(part.attributes["straight_pull_angle_deg"]);
    out[`${side}.count`] = shown(part.attributes[`${side}_holes`]);
  }
  return out;
}

function rimOf(draft: Draft, specification: Specification): Record<string, unknown> {
  const rim = specification.rim as Record<string, unknown>;
  const holes = Number(draft["right.count"]) + Number(draft["left.count"]);
  return { ...Object.fromEntries(RIM.map((name) => [name, rim[name] ?? null])), holes };
}

function hubOf(specification: Specification): Record<string, unknown> {
  const { hub, right, left } = specification;
  const center = (flange: Schemas["FlangeSpec"]) =>
    flange.center_to_flange_mm ?? hub.old_mm / 2 - (flange.locknut_to_flange_mm ?? 0);
  return {
    old_mm: hub.old_mm,
    right_pitch_circle_mm: hub.right.pitch_circle_mm,
    left_pitch_circle_mm: hub.left.pitch_circle_mm,
    right_center_to_flange_mm: center(hub.right),
    left_center_to_flange_mm: center(hub.left),
    hole_diameter_mm: hub.right.hole_diameter_mm ?? null,
    straight_pull_angle_deg: hub.right.straight_pull_angle_deg ?? null,
    right_holes: right.count,
    left_holes: left.count,
  };
}

import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { figure, typedNumber } from "@/ui/number";
import { NumberField } from "@/ui/NumberField";
import { useWrite } from "@/write/useWrite";
import { useState } from "react";
import { answer, client, type Schemas } from "@/api/client";
import { Problem, sentenceOf } from "@/api/problem";
import { Button } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { Dialog } from "@/ui/Dialog";
import { Notice } from "@/ui/Notice";
import { MeasureSketch } from "./MeasureSketch";

interface MeasureDialogProps {
  /** The dimension to be measured, by its path. */
  path: string;
  holes: number;
  stagger: number;
  hole: string;
  onClose: () => void;
  onTake: (value: string, sd: string) => void;
}

type Way = "rods" | "inside" | "bed" | "flange" | "locknut" | "old" | "center";
interface Asked {
  name: string;
  label: string;
  optional?: boolean;
}

/** Read off the caliper as they are. */
const DIRECT: readonly Way[] = ["old", "center"];
const FIELDS: Record<Exclude<Way, "rods">, readonly Asked[]> = {
  old: [{ name: "value", label: say`Between the locknuts' outer faces, mm` }],
  center: [{ name: "value", label: say`Centre to the middle of the flange, mm` }],
  inside: [
    { name: "inside_diameter_mm", label: say`Inside diameter, mm` },
    { name: "bed_mm", label: say`Thickness of the bed, mm` },
    { name: "seat_mm", label: say`Nipple's seat to its slot's bottom, mm` },
  ],
  bed: [
    { name: "to_left_edge_mm", label: say`Bed to the left edge, mm` },
    { name: "to_right_edge_mm", label: say`Bed to the right edge, mm` },
  ],
  flange: [
    { name: "inner_edges_mm", label: say`Between the holes' inner edges, mm`, optional: true },
    { name: "outer_edges_mm", label: say`Between their outer edges, mm`, optional: true },
    { name: "hole_mm", label: say`A hole's diameter, mm` },
  ],
  locknut: [
    { name: "to_outer_face_mm", label: say`Locknut to the flange's outer face, mm` },
    { name: "flange_thickness_mm", label: say`The flange's thickness, mm` },
  ],
};
const TITLE: Record<Way, string> = {
  rods: say`ERD with two rods`,
  inside: say`ERD from the inside`,
  bed: say`Offset of the spoke bed`,
  flange: say`The flange's circle of holes`,
  locknut: say`Locknut to flange`,
  old: say`Over-locknut width`,
  center: say`Centre to flange`,
};

function wayOf(path: string): Way {
  if (path === "rim.erd_mm") return "rods";
  if (path === "rim.spoke_bed_offset_mm") return "bed";
  if (path === "hub.old_mm") return "old";
  if (path.endsWith("center_to_flange_mm")) return "center";
  return path.endsWith("pitch_circle_mm") ? "flange" : "locknut";
}

/** Where the tool goes, what it shows, and what follows: the dimension with its uncertainty. */
export function MeasureDialog({ path, holes, stagger, hole, onClose, onTake }: MeasureDialogProps) {
  const [way, setWay] = useState<Way>(wayOf(path));
  const [said, setSaid] = useState<Record<string, string>>({ hole_mm: hole });
  const [rods, setRods] = useState([
    { first: "", second: "", gap: "" },
    { first: "", second: "", gap: "" },
  ]);
  const measure = useWrite({ send: () => ask(way, said, rods, holes, stagger) });
  const problem = measure.refused;
  const found = measure.data;
  return (
    <Dialog open onOpenChange={onClose} title={TITLE[way]}>
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          if (DIRECT.includes(way)) onTake(said["value"] ?? "", "");
          else measure.go();
        }}
      >
        {path === "rim.erd_mm" && (
          <Choice<Way>
            label={say`How`}
            value={way}
            onChange={(w) => {
              setWay(w);
              measure.reset();
            }}
            small
            options={[
              { value: "rods", text: say`two rods or spokes` },
              { value: "inside", text: say`from the inside` },
            ]}
          />
        )}
        <MeasureSketch of={way} />
        {way === "rods" ? (
          <Rods rods={rods} onChange={setRods} problem={problem} />
        ) : (
          <div className="grid grid-cols-3 gap-3">
            {FIELDS[way].map((f, i) => (
              <NumberField
                key={f.name}
                label={f.label}
                value={said[f.name] ?? ""}
                autoFocus={i === 0}
                onChange={(v) => setSaid((s) => ({ ...s, [f.name]: v }))}
                error={problem?.for(f.name)}
              />
            ))}
          </div>
        )}
        <Button type="submit" className="w-fit" disabled={measure.pending}>
          {DIRECT.includes(way) ? say`Take it` : say`What does it make?`}
        </Button>
        {problem && problem.errors.every((e) => e.field === "" || e.field === "erd_mm") && (
          <Notice kind="refusal">{sentenceOf(problem)}</Notice>
        )}
        {found && (
          <div aria-live="polite" className="flex flex-col gap-2">
            <p>
              <Trans>
                <span className="font-figure text-arm font-bold">{figure(found.value_mm, 2)}</span> ±{" "}
                {figure(found.sd_mm, 2)} mm
                {found.spread_mm > 0 && (
                  <span className="text-muted">
                    <Trans>, spread {figure(found.spread_mm, 1)} mm</Trans>
                  </span>
                )}
              </Trans>
            </p>
            {found.doubts.map((d) => (
              <Notice key={d} kind="caution">
                {d}
              </Notice>
            ))}
            <Button
              weight="now"
              className="w-fit"
              onClick={() => onTake(figure(found.value_mm, 2), figure(found.sd_mm, 2))}
            >
              <Trans>Take it</Trans>
            </Button>
          </div>
        )}
      </form>
    </Dialog>
  );
}

interface RodRow {
  first: string;
  second: string;
  gap: string;
}

function Rods({
  rods,
  onChange,
  problem,
}: {
  rods: RodRow[];
  onChange: (rods: RodRow[]) => void;
  problem: Problem | null;
}) {
  const set = (i: number, name: keyof RodRow, value: string) => {
    // The rods stay the same from one diameter to the next: say their lengths once.
    const next = rods.map((r, k) =>
      k === i ? { ...r, [name]: value } : name !== "gap" && k > i && !r.gap ? { ...r, [name]: value } : r,
    );
    onChange(next);
  };
  return (
    <>
      {rods.map((r, i) => (
        <div key={i} className="grid grid-cols-3 gap-3">
          <NumberField
            label={say`Rod, diameter ${i + 1}`}
            value={r.first}
            autoFocus={i === 0}
            onChange={(v) => set(i, "first", v)}
            error={problem?.for("first_mm")}
          />
          <NumberField
            label={say`Other rod`}
            value={r.second}
            onChange={(v) => set(i, "second", v)}
            error={problem?.for("second_mm")}
          />
          <NumberField
            label={say`Gap between`}
            value={r.gap}
            onChange={(v) => set(i, "gap", v)}
            error={problem?.for("gap_mm")}
          />
        </div>
      ))}
      <Button
        weight="quiet"
        className="w-fit"
        onClick={() => onChange([...rods, { ...(rods.at(-1) ?? { first: "", second: "" }), gap: "" }])}
      >
        <Trans>One more diameter</Trans>
      </Button>
    </>
  );
}

function millimetres(text: string | undefined): number {
  return typedNumber(text ?? "") ?? NaN;
}

function ask(
  way: Way,
  said: Record<string, string>,
  rods: RodRow[],
  holes: number,
  stagger: number,
): Promise<Schemas["Found"]> {
  if (way === "rods") {
    const diameters = rods
      .filter((r) => r.gap.trim() !== "")
      .map((r) => ({
        first_mm: millimetres(r.first),
        second_mm: millimetres(r.second),
        gap_mm: millimetres(r.gap),
      }));
    return answer(
      client.POST("/api/v1/measure/erd-by-rods", {
        body: { diameters, hole_count: holes, stagger_mm: stagger },
      }),
    );
  }
  const number = (name: string) => millimetres(said[name]);
  if (way === "inside") {
    const body = {
      inside_diameter_mm: number("inside_diameter_mm"),
      bed_mm: number("bed_mm"),
      seat_mm: number("seat_mm"),
    };
    return answer(client.POST("/api/v1/measure/erd-inside", { body }));
  }
  if (way === "bed") {
    const body = { to_left_edge_mm: number("to_left_edge_mm"), to_right_edge_mm: number("to_right_edge_mm") };
    return answer(client.POST("/api/v1/measure/bed", { body }));
  }
  if (way === "flange") {
    const given = (name: string) => (said[name]?.trim() ? number(name) : null);
    const body = {
      inner_edges_mm: given("inner_edges_mm"),
      outer_edges_mm: given("outer_edges_mm"),
      hole_mm: number("hole_mm"),
    };
    return answer(client.POST("/api/v1/measure/flange", { body }));
  }
  const body = {
    to_outer_face_mm: number("to_outer_face_mm"),
    flange_thickness_mm: number("flange_thickness_mm"),
  };
  return answer(client.POST("/api/v1/measure/locknut", { body }));
}

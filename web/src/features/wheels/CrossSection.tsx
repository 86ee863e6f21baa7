import { Drawing } from "@/ui/Drawing";
import type { CSSProperties } from "react";
import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { typedNumber } from "@/ui/number";
import type { Draft, School } from "./draft";
import { SectionField } from "./SectionField";

interface CrossSectionProps {
  draft: Draft;
  school: School;
  errorAt: (path: string) => string | undefined;
  onChange: (path: string, value: string) => void;
  sds: Draft;
  usualSds: Readonly<Record<string, number>>;
  onSd: (path: string, value: string) => void;
  doubtAt: (path: string) => string | undefined;
  onMeasure: (path: string) => void;
}

const WIDTH = 760;
const HEIGHT = 420;
const MIDDLE = WIDTH / 2;
const AXLE = 316;
const SEAT = 78;

function number(draft: Draft, path: string, otherwise: number): number {
  const value = typedNumber(draft[path] ?? "") ?? NaN;
  return Number.isFinite(value) && value !== 0 ? value : otherwise;
}

/** The wheel cut through and seen from behind: each dimension stands where the caliper goes. Widths are to scale. */
export function CrossSection(props: CrossSectionProps) {
  const { draft, school, errorAt, onChange } = props;
  const mm = 3.1;
  const old = number(draft, "hub.old_mm", 130);
  const name = school === "center" ? "center_to_flange_mm" : "locknut_to_flange_mm";
  const from = (side: "right" | "left") => {
    const value = typedNumber(draft[`hub.${side}.${name}`] ?? "0") ?? 0;
    return school === "center" ? value : old / 2 - value;
  };
  const xRight = MIDDLE + from("right") * mm;
  const xLeft = MIDDLE - from("left") * mm;
  const offset = typedNumber(draft["rim.spoke_bed_offset_mm"] ?? "0") ?? 0;
  const rim = MIDDLE + (typedNumber(draft["dish_target_mm"] ?? "0") ?? 0) * mm;
  const bed = rim + offset * mm;
  const radius = (side: "right" | "left") => number(draft, `hub.${side}.pitch_circle_mm`, 45) * 0.9;
  const ends = [MIDDLE - (old / 2) * mm, MIDDLE + (old / 2) * mm] as const;
  const field = (path: string) => ({
    value: draft[path] ?? "",
    error: errorAt(path),
    onChange: (value: string) => onChange(path, value),
    doubt: props.doubtAt(centred(path)),
    sd: {
      value: props.sds[path] ?? "",
      usual: props.usualSds[path] ?? props.usualSds[centred(path)],
      onChange: (value: string) => props.onSd(path, value),
    },
  });
  const measured = (path: string) => ({ ...field(path), onMeasure: () => props.onMeasure(path) });
  return (
    <div className="@container">
      <div
        className="relative mx-auto mb-6 w-full max-w-[740px] @max-[43rem]:grid @max-[43rem]:grid-cols-[repeat(auto-fill,minmax(13rem,1fr))] @max-[43rem]:items-end @max-[43rem]:gap-3 @min-[43rem]:aspect-(--section)"
        style={{ "--section": `${WIDTH} / ${HEIGHT}` } as CSSProperties}
      >
        <Drawing
          box={[0, 0, WIDTH, HEIGHT]}
          className="absolute inset-0 h-full w-full @max-[43rem]:static @max-[43rem]:col-span-full @max-[43rem]:h-auto"
          aria-hidden="true"
        >
          <path
            d={`M${MIDDLE} 20V${HEIGHT - 40}`}
            className="stroke-line-strong"
            strokeDasharray="10 4 2 4"
          />
          <path
            d={`M${rim - 38} 30v34q0 26 ${38 + offset * mm - 8} 30h16q${38 - offset * mm - 8} -4 ${38 - offset * mm - 8} -30v-34`}
            fill="none"
            className="stroke-ink"
            strokeWidth={4}
          />
          <rect x={bed - 5} y={SEAT + 8} width={10} height={16} className="fill-ink" />
          <path
            d={`M${bed} ${SEAT + 18}L${xRight} ${AXLE - radius("right")}`}
            className="stroke-ink"
            strokeWidth={3}
          />
          <path
            d={`M${bed} ${SEAT + 18}L${xLeft} ${AXLE - radius("left")}`}
            className="stroke-ghost"
            strokeWidth={3}
          />
          <rect x={ends[0]} y={AXLE - 5} width={ends[1] - ends[0]} height={10} className="fill-line-strong" />
          <rect
            x={Math.min(xLeft, xRight)}
            y={AXLE - 13}
            width={Math.abs(xRight - xLeft)}
            height={26}
            className="fill-sunk stroke-ink"
            strokeWidth={2}
          />
          {(["right", "left"] as const).map((side) => {
            const x = side === "right" ? xRight : xLeft;
            return (
              <rect
                key={side}
                x={x - 4}
                y={AXLE - radius(side) - 5}
                width={8}
                height={2 * radius(side) + 10}
                className="fill-plate stroke-ink"
                strokeWidth={2}
              />
            );
          })}
          {ends.map((x) => (
            <path key={x} d={`M${x} ${AXLE - 18}v36`} className="stroke-ink" strokeWidth={4} />
          ))}
          <Arrow x1={ends[0]} x2={ends[1]} y={AXLE + 52} />
          <Arrow x1={school === "center" ? MIDDLE : ends[1]} x2={xRight} y={AXLE - 52} />
          <Arrow x1={school === "center" ? MIDDLE : ends[0]} x2={xLeft} y={AXLE - 52} />
          <Upright x={xRight + 16} y1={AXLE - radius("right")} y2={AXLE + radius("right")} />
          <Upright x={xLeft - 16} y1={AXLE - radius("left")} y2={AXLE + radius("left")} />
          <Upright x={MIDDLE - 62} y1={SEAT + 18} y2={AXLE} />
          <text x={24} y={30} className="fill-muted text-(length:--letter)">
            <Trans>left, rotor</Trans>
          </text>
          <text x={WIDTH - 24} y={30} textAnchor="end" className="fill-muted text-(length:--letter)">
            <Trans>right, sprockets</Trans>
          </text>
        </Drawing>
        <SectionField
          label={say`ERD`}
          {...measured("rim.erd_mm")}
          left={30}
          top={33}
          help={say`Where the spoke ends sit: two rods through opposite holes, their lengths and the gap added`}
        />
        <SectionField
          label={say`Bead seat`}
          value={draft["rim.bead_seat_mm"] ?? ""}
          error={errorAt("rim.bead_seat_mm")}
          onChange={(value) => onChange("rim.bead_seat_mm", value)}
          left={31}
          top={13}
          help={say`ISO 5775, as printed on the tyre: 622, 406 …`}
        />
        <SectionField
          label={say`Spoke bed offset, + right`}
          {...measured("rim.spoke_bed_offset_mm")}
          left={71}
          top={13}
          help={say`Spoke bed to each edge of the rim, half the difference`}
        />
        <SectionField
          label={say`Flange circle, left`}
          {...measured("hub.left.pitch_circle_mm")}
          left={8}
          top={76}
          help={say`Between the centres of opposite spoke holes`}
        />
        <SectionField
          label={say`Flange circle, right`}
          {...measured("hub.right.pitch_circle_mm")}
          left={92}
          top={76}
          help={say`Between the centres of opposite spoke holes`}
        />
        <SectionField
          label={school === "center" ? say`Centre to left flange` : say`Left locknut to flange`}
          {...measured(`hub.left.${name}`)}
          left={20}
          top={56}
          help={say`To the middle of the flange's thickness`}
        />
        <SectionField
          label={school === "center" ? say`Centre to right flange` : say`Right locknut to flange`}
          {...measured(`hub.right.${name}`)}
          left={80}
          top={56}
          help={say`To the middle of the flange's thickness`}
        />
        <SectionField
          label={say`Over-locknut width`}
          {...measured("hub.old_mm")}
          left={50}
          top={96}
          help={say`Between the outer faces of the locknuts`}
        />
      </div>
    </div>
  );
}

function Upright({ x, y1, y2 }: { x: number; y1: number; y2: number }) {
  return (
    <path
      d={`M${x} ${y1}V${y2}M${x} ${y1}l-4 8m4 -8l4 8M${x} ${y2}l-4 -8m4 8l4 -8`}
      fill="none"
      className="stroke-line-strong"
      strokeWidth={1.5}
    />
  );
}

function Arrow({ x1, x2, y }: { x1: number; x2: number; y: number }) {
  return (
    <path
      d={`M${x1} ${y}H${x2}M${x1} ${y}l8 -4m-8 4l8 4M${x2} ${y}l-8 -4m8 4l-8 4`}
      fill="none"
      className="stroke-ink"
      strokeWidth={1.5}
    />
  );
}

/** The path of a flange's distance from the centre, however it was measured. */
function centred(path: string): string {
  return path.replace("locknut_to_flange", "center_to_flange");
}

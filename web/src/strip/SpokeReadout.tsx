import { type ForceUnit, shownForce, signed } from "@/ui/forces";
import type { WheelState } from "./types";

/** The figures of one column, in words and numbers. */
export function SpokeReadout({
  state,
  selected,
  unit,
}: {
  state: WheelState;
  selected: string;
  unit: ForceUnit;
}) {
  const spoke = state.spokes.find((s) => s.name === selected);
  if (!spoke) return null;
  const measured = spoke.measured_n !== null;
  const side = spoke.side === "R" ? "right" : "left";
  return (
    <dl className="flex flex-wrap items-baseline gap-x-6 gap-y-1">
      <div className="rounded-sm bg-signal px-2 font-figure text-xl font-bold text-signal-ink">
        <dt className="sr-only">Spoke</dt>
        <dd>{spoke.name}</dd>
      </div>
      <Figure name={measured ? "tension, measured" : "tension, estimated"}>
        {shownForce(Math.max(0, spoke.tension_n), unit)} {unit}
        {!measured && <small className="text-muted"> ± {shownForce(spoke.tension_sd_n, unit)}</small>}
      </Figure>
      <Figure name={`from the ${side} mean`}>
        {signed(spoke.percent_of_mean, 0)} %{spoke.outside ? " — outside" : ""}
      </Figure>
      <Figure name="lateral">{signed(spoke.lateral_mm, 2)} mm</Figure>
      <Figure name="radial">{signed(spoke.radial_mm, 2)} mm</Figure>
    </dl>
  );
}

function Figure({ name, children }: { name: string; children: React.ReactNode }) {
  return (
    <div className="flex items-baseline gap-2">
      <dt className="text-sm text-muted">{name}</dt>
      <dd className="font-figure font-bold">{children}</dd>
    </div>
  );
}

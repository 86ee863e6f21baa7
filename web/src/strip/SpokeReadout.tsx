import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
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
  const side = spoke.side === "R" ? say`right` : say`left`;
  return (
    <dl className="flex flex-wrap items-baseline gap-x-6 gap-y-1">
      <div className="rounded-sm bg-signal px-2 font-figure text-xl font-bold text-signal-ink">
        <dt className="sr-only">
          <Trans>Spoke</Trans>
        </dt>
        <dd>{spoke.name}</dd>
      </div>
      <Figure name={measured ? say`tension, measured` : say`tension, estimated`}>
        {shownForce(Math.max(0, spoke.tension_n), unit)} {unit}
        {!measured && <small className="text-muted"> ± {shownForce(spoke.tension_sd_n, unit)}</small>}
      </Figure>
      <Figure name={say`from the ${side} mean`}>
        {signed(spoke.percent_of_mean, 0)} %{spoke.outside ? say` — outside` : ""}
      </Figure>
      <Figure name={say`lateral`}>
        <Trans>{signed(spoke.lateral_mm, 2)} mm</Trans>
      </Figure>
      <Figure name={say`radial`}>
        <Trans>{signed(spoke.radial_mm, 2)} mm</Trans>
      </Figure>
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

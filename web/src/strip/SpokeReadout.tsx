import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { type ForceUnit, shownForce, signed } from "@/ui/forces";
import type { WheelState } from "./types";
import { figure } from "@/ui/number";

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
      <Figure
        name={
          spoke.broken ? say`broken or missing` : measured ? say`tension, measured` : say`tension, estimated`
        }
      >
        {shownForce(Math.max(0, spoke.tension_n), unit)} {unit}
        {!measured && <small className="text-muted"> ± {shownForce(spoke.tension_sd_n, unit)}</small>}
        {apart(spoke.measured_n, spoke.tension_n, spoke.tension_sd_n, 40) && (
          <small>
            {" "}
            <Trans>(read {shownForce(spoke.measured_n ?? 0, unit)})</Trans>
          </small>
        )}
      </Figure>
      <Figure name={say`from the ${side} mean`}>
        {signed(spoke.percent_of_mean, 0)} %{spoke.outside ? say` — outside` : ""}
      </Figure>
      <Deviation
        name={spoke.read_lateral_mm === null ? say`lateral, estimated` : say`lateral`}
        value={spoke.lateral_mm}
        sd={spoke.lateral_sd_mm}
        read={spoke.read_lateral_mm}
      />
      <Deviation
        name={spoke.read_radial_mm === null ? say`radial, estimated` : say`radial`}
        value={spoke.radial_mm}
        sd={spoke.radial_sd_mm}
        read={spoke.read_radial_mm}
      />
    </dl>
  );
}

/** Whether a reading and the estimate lie so far apart that both are to be seen. */
function apart(read: number | null, estimate: number, sd: number, least: number): boolean {
  return read !== null && Math.abs(read - estimate) > Math.max(2.5 * sd, least);
}

function Deviation({
  name,
  value,
  sd,
  read,
}: {
  name: string;
  value: number;
  sd: number;
  read: number | null;
}) {
  return (
    <Figure name={name}>
      <Trans>{signed(value, 2)} mm</Trans>
      {read === null && <small className="text-muted"> ± {figure(sd, 2)}</small>}
      {apart(read, value, sd, 0.06) && (
        <small>
          {" "}
          <Trans>(read {signed(read ?? 0, 2)})</Trans>
        </small>
      )}
    </Figure>
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

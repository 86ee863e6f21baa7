import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { ReactNode } from "react";
import type { Schemas } from "@/api/client";
import { turnsText } from "@/features/bench/turns";
import { Button } from "@/ui/Button";
import { figure } from "@/ui/number";

type Pass = Schemas["PracticePass"];

/** A pass against the best plan: one sentence to take along, where the turns went, and what the wheel is now. */
export function PassTold({ pass, names, onGoOn }: { pass: Pass; names: string[]; onGoOn: () => void }) {
  return (
    <section aria-label={say`Pass ${pass.number}, judged`} className="flex flex-col gap-3">
      <p className="text-xl font-bold">{pass.sentence}</p>
      <div className="flex flex-wrap items-start gap-x-10 gap-y-3">
        <table className="text-sm">
          <thead>
            <tr className="text-left">
              <th scope="col">
                <span className="sr-only">
                  <Trans>Figure</Trans>
                </span>
              </th>
              <th scope="col" className="px-3">
                <Trans>before</Trans>
              </th>
              <th scope="col" className="px-3">
                <Trans>you</Trans>
              </th>
              <th scope="col" className="px-3">
                <Trans>best plan</Trans>
              </th>
            </tr>
          </thead>
          <tbody className="font-figure">
            <Row name={say`lateral, mm`} of={pass} figure="lateral_mm" digits={2} />
            <Row name={say`radial, mm`} of={pass} figure="radial_mm" digits={2} />
            <Row name={say`dish, mm`} of={pass} figure="dish_mm" digits={2} />
            <Row name={say`uneven, %`} of={pass} figure="spread_percent" digits={0} />
            <Line name={say`nipples touched`}>
              <td className="px-3" />
              <td className="px-3">{pass.touches}</td>
              <td className="px-3">{pass.best_touches}</td>
            </Line>
            <Line name={say`turns in all`}>
              <td className="px-3" />
              <td className="px-3">{turnsText(pass.turned)}</td>
              <td className="px-3">{turnsText(pass.best_turned)}</td>
            </Line>
          </tbody>
        </table>
        <Went pass={pass} />
      </div>
      <Compared pass={pass} names={names} />
      <dl className="grid grid-cols-[auto_1fr] gap-x-3 font-figure text-sm">
        <dt className="font-sans text-muted">
          <Trans>you</Trans>
        </dt>
        <dd>{turnsList(pass.yours)}</dd>
        <dt className="font-sans text-muted">
          <Trans>best plan</Trans>
        </dt>
        <dd>{turnsList(pass.plan)}</dd>
      </dl>
      <Button weight="now" className="self-start" onClick={onGoOn} autoFocus>
        <Trans>
          Go on <kbd className="font-figure text-sm">Enter</kbd>
        </Trans>
      </Button>
    </section>
  );
}

/** Spoke by spoke, + tighter. */
function turnsList(turned: Schemas["NippleTurned"][]): string {
  return turned.map((t) => `${t.spoke} ${t.turns > 0 ? "+" : "−"}${turnsText(t.turns)}`).join(", ") || "–";
}

function Line({ name, children }: { name: string; children: ReactNode }) {
  return (
    <tr className="border-t border-line">
      <th scope="row" className="text-left font-sans font-normal text-muted">
        {name}
      </th>
      {children}
    </tr>
  );
}

interface RowProps {
  name: string;
  of: Pass;
  figure: "lateral_mm" | "radial_mm" | "dish_mm" | "spread_percent";
  digits: number;
}

function Row({ name, of, figure: which, digits }: RowProps) {
  return (
    <Line name={name}>
      <td className="px-3">{figure(of.before[which], digits)}</td>
      <td className="px-3 font-bold">{figure(of.after[which], digits)}</td>
      <td className="px-3">{figure(of.best[which], digits)}</td>
    </Line>
  );
}

/** Where the turns went; what is nothing is not named. */
function Went({ pass }: { pass: Pass }) {
  const parts: [string, number][] = [
    [say`where they were needed`, pass.needed],
    [say`too far`, pass.too_far],
    [say`the wrong way`, pass.wrong_way],
    [say`elsewhere`, pass.elsewhere],
    [say`still in twisted spokes`, pass.in_twist],
    [say`left for later`, pass.left_out],
  ];
  const most = Math.max(pass.turned, pass.best_turned, 0.01);
  return (
    <dl className="grid grid-cols-[auto_auto_1fr] items-center gap-x-3 text-sm">
      {parts
        .filter(([, turns]) => turns > 0.03)
        .map(([name, turns]) => (
          <div key={name} className="contents">
            <dt className="text-muted">{name}</dt>
            <dd className="font-figure font-bold">{turnsText(turns)}</dd>
            <dd aria-hidden="true">
              <div className="h-3 bg-ink" style={{ width: `${Math.min(1, turns / most) * 160}px` }} />
            </dd>
          </div>
        ))}
    </dl>
  );
}

/** Nipple by nipple: yours filled, the plan's as an outline. */
function Compared({ pass, names }: { pass: Pass; names: string[] }) {
  const of = (turned: Schemas["NippleTurned"][]) => new Map(turned.map((t) => [t.spoke, t.turns]));
  const yours = of(pass.yours);
  const plan = of(pass.plan);
  const column = 1000 / Math.max(1, names.length);
  const most = Math.max(0.5, ...[...yours.values(), ...plan.values()].map(Math.abs));
  const bar = (turns: number) => ({
    y: turns > 0 ? 40 - (36 * turns) / most : 40,
    height: (36 * Math.abs(turns)) / most,
  });
  return (
    <svg
      viewBox="0 0 1000 80"
      preserveAspectRatio="none"
      className="h-16 w-full max-sm:hidden"
      role="img"
      aria-label={say`Your turns and the plan’s, round the rim from the valve`}
    >
      <path d="M0 40h1000" className="stroke-line-strong" strokeWidth={1} />
      {names.map((name, i) => {
        const mine = yours.get(name) ?? 0;
        const best = plan.get(name) ?? 0;
        return (
          <g key={name}>
            {mine !== 0 && (
              <rect x={i * column + column * 0.2} width={column * 0.6} {...bar(mine)} className="fill-ink" />
            )}
            {best !== 0 && (
              <rect
                x={i * column + column * 0.08}
                width={column * 0.84}
                {...bar(best)}
                fill="none"
                className="stroke-ink"
                strokeWidth={2}
                strokeDasharray="5 3"
                vectorEffect="non-scaling-stroke"
              />
            )}
          </g>
        );
      })}
    </svg>
  );
}

import { Drawing } from "@/ui/Drawing";
import { word } from "@/ui/words";
import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { useQuery } from "@tanstack/react-query";
import { answer, client, type Schemas } from "@/api/client";
import { keys } from "@/api/keys";
import { claimed } from "./claims";
import { Choice } from "@/ui/Choice";
import { type ForceUnit, shownForce } from "@/ui/forces";
import { IfFailed } from "@/ui/NotYet";
import { type Point, worstShare } from "./tradeOff";
import { figure } from "@/ui/number";

const W = 520;
const H = 158;
const LEFT = 46;
const RIGHT = 12;
const BOTTOM = 24;
/** The picture reaches to one and a half times what is allowed; what is worse lies at its top. */
const MOST = 150;

/** What a plan of few nipples and of many leads to, from the readings of a set; asked anew when what it rests on changes. */
export function useTradeOff(setId: string, asked: Schemas["PlanRequestRequest"], enabled: boolean) {
  return useQuery({
    queryKey: keys.ofSet(setId, "trade-off", asked),
    queryFn: () =>
      answer(
        client.POST("/api/v1/reading-sets/{set_id}/trade-off", {
          params: { path: { set_id: setId } },
          body: asked,
        }),
      ),
    enabled,
    placeholderData: (old) => old,
    retry: false,
  });
}

interface TradeOffProps {
  found: ReturnType<typeof useTradeOff>;
  unit: ForceUnit;
  chosen: number | null;
  onChoose: (nipples: number) => void;
}

/** Nipples against chance and finish in one picture; one key chooses. */
export function TradeOff({ found, unit, chosen, onChoose }: TradeOffProps) {
  const data = found.data;
  if (!data)
    return found.isError ? (
      <IfFailed of={found} />
    ) : (
      <p role="status">
        <Trans>Weighing nipples against chance …</Trans>
      </p>
    );
  const proposed = data.choices.find((c) => c.proposed)?.nipples ?? 0;
  const at = data.choices.find((c) => c.nipples === (chosen ?? proposed)) ?? data.choices[0];
  if (!at) return null;
  // What an eye tells is no ground for a chance: how many are turned is left to the plan.
  if (data.by_eye.length > 0)
    return (
      <p>
        <Trans>
          Told by eye: about {at.nipples} nipples, and no chance is stated. Look again after each, or read
          more for a surer plan.
        </Trans>
      </p>
    );
  return (
    <figure className="flex flex-col gap-2">
      <figcaption className="flex flex-wrap justify-between gap-x-4 text-sm">
        <strong>
          <Trans>How many nipples</Trans>
        </strong>
        <span className="text-muted">
          <Trans>● chance to be inside, □ worst figure as a share of what is allowed</Trans>
        </span>
      </figcaption>
      <Picture points={data.choices} tier={data.tier} asked={data.asked_chance} at={at.nipples} />
      <Choice
        label={say`How many nipples`}
        value={String(at.nipples)}
        onChange={(n) => onChoose(Number(n))}
        options={data.choices.map((c) => ({
          value: String(c.nipples),
          text: c.nipples === 0 ? say`none` : c.proposed ? say`${c.nipples} ✓` : String(c.nipples),
          ...(c.proposed ? { hint: say`proposed` } : {}),
        }))}
      />
      {data.unread.length > 0 && (
        <p>
          <Trans>Too little was read of the rest: chances are about {claimed(data)} alone.</Trans>
        </p>
      )}
      <p role="status">
        <strong>{Math.round(at.chance * 100)} %</strong>{" "}
        <Trans>
          to be inside {word(data.tier.name)} after {at.nipples} nipples, about {Math.round(at.minutes)} min.
          To expect: lateral {figure(at.lateral_mm, 2)}, radial {figure(at.radial_mm, 2)}, dish{" "}
          {figure(at.dish_mm, 2)} mm, spread ±{Math.round(at.spread_percent)} %, mean{" "}
          {shownForce(at.mean_n, unit)} of {shownForce(data.target_n, unit)} {unit}.
        </Trans>
      </p>
    </figure>
  );
}

interface PictureProps {
  points: readonly Point[];
  tier: Schemas["TradeOff"]["tier"];
  asked: number;
  at: number;
}

function Picture({ points, tier, asked, at }: PictureProps) {
  const most = Math.max(1, ...points.map((p) => p.nipples));
  const x = (nipples: number) => LEFT + 10 + (nipples / most) * (W - LEFT - RIGHT - 20);
  const y = (percent: number) => 8 + (1 - Math.min(percent, MOST) / MOST) * (H - BOTTOM - 8);
  const line = (pick: (p: Point) => number) =>
    points.map((p, i) => `${i ? "L" : "M"}${x(p.nipples)} ${y(pick(p))}`).join("");
  const chance = (p: Point) => 100 * p.chance;
  const worst = (p: Point) => 100 * worstShare(p, tier);
  return (
    <Drawing
      box={[0, 0, W, H]}
      className="w-full"
      role="img"
      aria-label={say`Chance to be inside and worst figure against the nipples turned`}
    >
      <rect x={LEFT} y={y(100)} width={W - LEFT - RIGHT} height={y(0) - y(100)} className="fill-tube" />
      {[0, 50, 100, 150].map((p) => (
        <g key={p}>
          <path d={`M${LEFT} ${y(p)}H${W - RIGHT}`} className="stroke-line" />
          <text x={LEFT - 6} y={y(p) + 4} textAnchor="end" className="fill-muted text-(length:--letter)">
            {p} %
          </text>
        </g>
      ))}
      <path d={`M${LEFT} ${y(100 * asked)}H${W - RIGHT}`} className="stroke-ink" strokeDasharray="2 4" />
      <path d={`M${x(at)} 8V${y(0)}`} className="stroke-line-strong" strokeWidth={6} />
      <path d={line(worst)} fill="none" className="stroke-ink" strokeWidth={2} strokeDasharray="7 4" />
      <path d={line(chance)} fill="none" className="stroke-ink" strokeWidth={3} />
      {points.map((p) => (
        <g key={p.nipples}>
          <rect
            x={x(p.nipples) - 4}
            y={y(worst(p)) - 4}
            width={8}
            height={8}
            className="fill-plate stroke-ink"
            strokeWidth={2}
          />
          <circle cx={x(p.nipples)} cy={y(chance(p))} r={p.nipples === at ? 7 : 5} className="fill-ink" />
          <text
            x={x(p.nipples)}
            y={H - 6}
            textAnchor="middle"
            className={
              p.nipples === at
                ? "fill-ink text-(length:--letter) font-bold"
                : "fill-muted text-(length:--letter)"
            }
          >
            {p.nipples}
          </text>
        </g>
      ))}
    </Drawing>
  );
}

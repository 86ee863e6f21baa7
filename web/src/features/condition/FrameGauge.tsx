import { Drawing } from "@/ui/Drawing";
import { word } from "@/ui/words";
import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { figure, typedNumber } from "@/ui/number";
import { NumberField } from "@/ui/NumberField";
import { useState } from "react";
import type { Schemas } from "@/api/client";
import { Problem, sentenceOf } from "@/api/problem";
import { Button } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { PickField } from "@/ui/Field";
import { Notice } from "@/ui/Notice";
import { useCondition } from "./useRepair";

type Material = Schemas["NewFrameCheckRequest"]["material"];
const MATERIALS: Material[] = ["steel", "aluminium", "carbon", "titanium", "unknown"];
const ADVICE: Record<Schemas["FrameCheck"]["advice"], string> = {
  leave: say`Leave it`,
  set: say`May be set by somebody qualified`,
  refer: say`Refer; it is not bent here`,
};

interface FrameGaugeProps {
  jobId: string;
  frame: Schemas["FrameCheck"] | null;
  rear: boolean;
  closed: boolean;
}

/** Frame gauge: touch one dropout, read the gap at the other. No sign to mistake. */
export function FrameGauge({ jobId, frame, rear, closed }: FrameGaugeProps) {
  const { frame: send } = useCondition(jobId);
  const [side, setSide] = useState<"R" | "L">("L");
  const [gap, setGap] = useState("");
  const [material, setMaterial] = useState<Material>("unknown");
  const problem = send.error instanceof Problem ? send.error : null;
  const number = typedNumber(gap) ?? NaN;
  const bad = gap.trim() !== "" && Number.isNaN(number);
  const shownGap = bad ? 0 : number || 0;
  const what = rear ? say`frame` : say`fork`;
  return (
    <div className="flex flex-col gap-4">
      <Notice kind="caution">
        <Trans>
          Never bend a {what} that is not steel. Even steel only by somebody qualified, and not near a joint.
        </Trans>
      </Notice>
      {!closed && (
        <form
          aria-label={say`Frame gauge`}
          className="flex flex-col gap-3 rounded-md border border-line bg-plate p-4"
          onSubmit={(event) => {
            event.preventDefault();
            send.go({
              material,
              gap_right_mm: side === "R" ? shownGap : 0,
              gap_left_mm: side === "L" ? shownGap : 0,
            });
          }}
        >
          <GaugeDrawing side={side} gap={shownGap} rear={rear} />
          <div className="flex flex-wrap items-start gap-4">
            <div className="flex flex-col gap-1">
              <span className="text-sm font-bold">
                <Trans>Touches one dropout, gap at the</Trans>
              </span>
              <Choice
                label={say`Side of the gap`}
                value={side}
                onChange={setSide}
                options={[
                  { value: "L", text: say`left` },
                  { value: "R", text: say`right` },
                ]}
              />
            </div>
            <NumberField
              label={say`Gap, mm`}
              min={0}
              unit="mm"
              value={gap}
              onChange={setGap}
              error={
                bad
                  ? say`Enter a number of millimetres`
                  : (problem?.for("gap_left_mm") ?? problem?.for("gap_right_mm"))
              }
              help={say`0 where both touch`}
              className="w-24"
            />
            <PickField
              label={say`The ${what} is of`}
              value={material}
              onChange={(m) => setMaterial(m as Material)}
              options={MATERIALS.map((m) => ({ value: m, text: m === "unknown" ? say`not known` : word(m) }))}
              className="w-36"
            />
            <Button
              type="submit"
              weight="now"
              disabled={send.pending || bad || gap.trim() === ""}
              className="mt-6"
            >
              <Trans>Judge it</Trans>
            </Button>
          </div>
          {send.error && !problem?.errors.length && <Notice kind="refusal">{sentenceOf(send.error)}</Notice>}
        </form>
      )}
      {frame && (
        <section aria-label={say`What the gauge says`} className="flex flex-col gap-1">
          <p className="text-xl font-bold">{ADVICE[frame.advice]}</p>
          <p>{frame.why}</p>
          <p className="text-muted">
            <Trans>
              The axle&rsquo;s middle lies{" "}
              <span className="font-figure">
                {figure(Math.abs(frame.offset_mm), 1)} ± {figure(frame.sd_mm, 1)} mm
              </span>{" "}
              {frame.toward === "R" ? say`to the right` : frame.toward === "L" ? say`to the left` : "aside"}{" "}
              of the {what}
              &rsquo;s plane. At the brake the rim is off by {figure(Math.abs(frame.at_rim_swung_mm), 1)} mm
              if the stays swung as one, {figure(Math.abs(frame.at_rim_parallel_mm), 1)} mm if the dropouts
              stand parallel. Read by {frame.by}.
            </Trans>
          </p>
        </section>
      )}
    </div>
  );
}

/** The rear end from above, the gauge along the frame's middle, its pointer at the dropout with the gap. */
function GaugeDrawing({ side, gap, rear }: { side: "R" | "L"; gap: number; rear: boolean }) {
  // Seen from above, riding up the page: the rider's right is on the right.
  const shift = Math.min(gap, 12) * 2;
  const right = 300 - (side === "R" ? shift : 0);
  const left = 180 + (side === "L" ? shift : 0);
  const pointer = side === "R" ? 300 : 180;
  return (
    <Drawing
      box={[0, 0, 480, 190]}
      className="mx-auto h-44"
      role="img"
      aria-label={say`${rear ? say`Rear end` : say`Fork`} from above: the gauge's pointer leaves a gap at the ${side === "R" ? say`right` : say`left`} dropout`}
    >
      <path d="M240 8V182" className="stroke-line-strong" strokeDasharray="10 4 2 4" />
      <path
        d={`M240 12C262 60 ${right} 70 ${right} 150`}
        fill="none"
        className="stroke-ink"
        strokeWidth={7}
      />
      <path d={`M240 12C218 60 ${left} 70 ${left} 150`} fill="none" className="stroke-ink" strokeWidth={7} />
      <rect x={right - 4} y={138} width={8} height={30} className="fill-ink" />
      <rect x={left - 4} y={138} width={8} height={30} className="fill-ink" />
      <path
        d={`M240 20L${side === "R" ? 336 : 144} 40V176`}
        fill="none"
        className="stroke-signal"
        strokeWidth={4}
      />
      <path
        d={`M${side === "R" ? 336 : 144} 154H${pointer + (side === "R" ? 6 : -6)}`}
        className="stroke-signal"
        strokeWidth={4}
      />
      {shift > 0 && (
        <path
          d={`M${pointer} 182H${side === "R" ? right : left}`}
          className="stroke-danger"
          strokeWidth={4}
        />
      )}
      <text x={356} y={158} className="fill-muted text-(length:--letter)">
        <Trans>right</Trans>
      </text>
      <text x={84} y={158} className="fill-muted text-(length:--letter)">
        <Trans>left</Trans>
      </text>
    </Drawing>
  );
}

import { NumberField } from "@/ui/NumberField";
import { type KeyboardEvent, useState } from "react";
import { Button } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { dishText } from "./dish";
import { DishDrawing } from "./DishDrawing";
import { typedNumber } from "@/ui/number";
import { enter } from "@/write/outbox";
import type { Shown } from "./useReadings";

type Method = "gauge" | "flip" | "stand";

/** Dish without signs: say on which side the gap was seen, or read the same pointer twice. */
export function DishEntry({
  target,
  shown,
  onDone,
}: {
  target: Readonly<Record<string, string>>;
  shown: Shown | undefined;
  onDone: () => void;
}) {
  const [method, setMethod] = useState<Method>("gauge");
  const [side, setSide] = useState<"R" | "L">("R");
  const [first, setFirst] = useState("");
  const [second, setSecond] = useState("");
  const [error, setError] = useState("");

  const record = () => {
    const a = typedNumber(first);
    const b = typedNumber(second);
    if (a === null || (method === "flip" && b === null)) {
      setError("Enter a number of millimetres.");
      return;
    }
    setError("");
    if (method === "gauge") enter("reading", target, { kind: "dish", method, gap_mm: a, gap_side: side });
    else if (method === "stand") enter("reading", target, { kind: "dish", method, offset_mm: a, side });
    else
      enter("reading", target, {
        kind: "dish",
        method,
        clearance_right_way_mm: a,
        clearance_flipped_mm: b ?? 0,
      });
    onDone();
  };
  const onEnter = (event: KeyboardEvent) => {
    if (event.key === "Enter" && !event.repeat) {
      event.preventDefault();
      record();
    }
  };

  return (
    <div className="grid grid-cols-[minmax(0,1fr)_minmax(0,360px)] gap-x-4" onKeyDown={onEnter}>
      <div className="flex flex-col gap-3">
        <Choice
          label="How the dish is measured"
          value={method}
          onChange={setMethod}
          options={[
            { value: "gauge", text: "Dishing gauge", hint: "Default: the most trustworthy" },
            { value: "flip", text: "Flip in the stand" },
            {
              value: "stand",
              text: "The stand's own middle",
              hint: "The least trustworthy: counts for little",
            },
          ]}
        />
        {method === "gauge" ? (
          <div className="flex items-start gap-4">
            <NumberField
              label="Gap at the locknut, mm"
              value={first}
              onChange={setFirst}
              error={error || undefined}
              help="Set the gauge on one side, hold it to the other. An overlap is a negative gap; none is 0."
              className="w-64"
              autoFocus
            />
            <div className="flex flex-col gap-1">
              <span className="text-sm font-bold">The gap is on the</span>
              <Choice
                label="Side of the gap"
                value={side}
                onChange={setSide}
                options={[
                  { value: "L", text: "left" },
                  { value: "R", text: "right" },
                ]}
              />
            </div>
          </div>
        ) : method === "stand" ? (
          <div className="flex items-start gap-4">
            <NumberField
              label="Rim off the stand's middle, mm"
              value={first}
              onChange={setFirst}
              error={error || undefined}
              help="Counts as ±0.5 mm: check the stand by flipping a wheel in it."
              className="w-64"
              autoFocus
            />
            <div className="flex flex-col gap-1">
              <span className="text-sm font-bold">It sits toward the</span>
              <Choice
                label="Side the rim sits toward"
                value={side}
                onChange={setSide}
                options={[
                  { value: "L", text: "left" },
                  { value: "R", text: "right" },
                ]}
              />
            </div>
          </div>
        ) : (
          <div className="flex gap-4">
            <NumberField
              label="Pointer on the right, wheel as it runs, mm"
              value={first}
              onChange={setFirst}
              error={error || undefined}
              className="w-64"
              autoFocus
            />
            <NumberField
              label="Same pointer, wheel flipped, mm"
              value={second}
              onChange={setSecond}
              className="w-64"
            />
          </div>
        )}
        <div className="flex items-center gap-4">
          <Button weight="now" onClick={record}>
            Record dish
          </Button>
          <p aria-live="polite" className="text-muted">
            {shown?.state === "saved" && `Saved: rim ${dishText(Number(shown.text))}`}
            {shown?.state === "waiting" && `Waiting to be sent: ${shown.text}`}
            {shown?.state === "refused" && <strong className="text-danger">{shown.message}</strong>}
          </p>
        </div>
      </div>
      <DishDrawing method={method} side={side} first={typedNumber(first)} second={typedNumber(second)} />
    </div>
  );
}

import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { NumberField } from "@/ui/NumberField";
import { type KeyboardEvent, useEffect, useRef, useState } from "react";
import { Button } from "@/ui/Button";
import { Choice } from "@/ui/Choice";
import { dishText } from "./dish";
import { DishDrawing } from "./DishDrawing";
import { typedNumber } from "@/ui/number";
import { enter } from "@/write/outbox";
import type { Shown } from "./useReadings";

type Method = "gauge" | "flip" | "stand";
const METHODS: readonly Method[] = ["gauge", "flip", "stand"];

/** Dish without signs: say on which side the gap was seen, or read the same pointer twice. */
export function DishEntry({
  target,
  shown,
  onMode,
}: {
  target: Readonly<Record<string, string>>;
  shown: Shown | undefined;
  onMode: (by: 1 | -1) => void;
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
      setError(say`Enter a number of millimetres.`);
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
    setFirst("");
    setSecond("");
    // The next one begins with its first figure.
    fields()[0]?.focus();
  };
  const place = useRef<HTMLDivElement>(null);
  const fields = () => [...(place.current?.querySelectorAll<HTMLInputElement>("input") ?? [])];
  const go = (by: 1 | -1) => {
    const at = METHODS.indexOf(method);
    setMethod(METHODS[(at + by + METHODS.length) % METHODS.length] ?? method);
    setError("");
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (!(event.target instanceof HTMLInputElement)) return;
    const { target: field } = event;
    const at = fields().indexOf(field);
    const before = fields()[at - 1];
    const after = fields()[at + 1];
    const act: Record<string, (() => void) | undefined> = {
      "*": () => onMode(1),
      "/": () => onMode(-1),
      // Both of a flip in a row; Enter on nothing goes on once a dish is there.
      Enter: () => {
        if (field.value === "" && at === 0 && shown) onMode(1);
        else if (after && field.value !== "") after.focus();
        else record();
      },
      "+": method === "flip" ? undefined : () => setSide("R"),
      "-": method === "flip" ? undefined : () => setSide("L"),
      ArrowUp: before && (() => before.focus()),
      ArrowDown: after && (() => after.focus()),
      Backspace: field.value === "" && before ? () => before.focus() : undefined,
      ArrowLeft: field.value === "" ? () => go(-1) : undefined,
      ArrowRight: field.value === "" ? () => go(1) : undefined,
    };
    const chosen = act[event.key];
    if (!chosen) return;
    event.preventDefault();
    if (!event.repeat) chosen();
  };
  // Another method is another first field.
  useEffect(() => place.current?.querySelector("input")?.focus(), [method]);

  return (
    <div
      className="grid grid-cols-[minmax(0,1fr)_minmax(0,360px)] gap-x-4 max-md:grid-cols-1"
      ref={place}
      onKeyDown={onKeyDown}
    >
      <div className="flex flex-col gap-3 low:gap-1">
        <Choice
          label={say`How the dish is measured`}
          value={method}
          onChange={setMethod}
          options={[
            { value: "gauge", text: say`Dishing gauge`, hint: say`Default: the most trustworthy` },
            { value: "flip", text: say`Flip in the stand` },
            {
              value: "stand",
              text: say`The stand's own middle`,
              hint: say`The least trustworthy: counts for little`,
            },
          ]}
        />
        {method === "gauge" ? (
          <div className="flex items-start gap-4">
            <NumberField
              label={say`Gap at the locknut, mm`}
              value={first}
              onChange={setFirst}
              error={error || undefined}
              help={say`Set the gauge on one side, hold it to the other. An overlap is a gap on the other side; none is 0.`}
              className="w-64"
              autoFocus
            />
            <div className="flex flex-col gap-1">
              <span className="text-sm font-bold">
                <Trans>The gap is on the</Trans>
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
          </div>
        ) : method === "stand" ? (
          <div className="flex items-start gap-4">
            <NumberField
              label={say`Rim off the stand's middle, mm`}
              value={first}
              onChange={setFirst}
              error={error || undefined}
              help={say`Counts as ±0.5 mm: check the stand by flipping a wheel in it.`}
              className="w-64"
              autoFocus
            />
            <div className="flex flex-col gap-1">
              <span className="text-sm font-bold">
                <Trans>It sits toward the</Trans>
              </span>
              <Choice
                label={say`Side the rim sits toward`}
                value={side}
                onChange={setSide}
                options={[
                  { value: "L", text: say`left` },
                  { value: "R", text: say`right` },
                ]}
              />
            </div>
          </div>
        ) : (
          <div className="flex gap-4">
            <NumberField
              label={say`Pointer on the right, wheel as it runs, mm`}
              value={first}
              onChange={setFirst}
              error={error || undefined}
              className="w-64"
              autoFocus
            />
            <NumberField
              label={say`Same pointer, wheel flipped, mm`}
              value={second}
              onChange={setSecond}
              className="w-64"
            />
          </div>
        )}
        <div className="flex items-center gap-4">
          <Button weight="now" onClick={record}>
            <Trans>Record dish</Trans>
          </Button>
          <p className="text-sm text-muted max-sm:hidden">
            {method === "flip" ? (
              <Trans>Enter: the next, then record. ← →: another way to measure.</Trans>
            ) : (
              <Trans>+ right, − left, Enter records. ← →: another way to measure.</Trans>
            )}
          </p>
          <p aria-live="polite" className="text-muted">
            {shown?.state === "saved" && say`Saved: rim ${dishText(Number(shown.text))}`}
            {shown?.state === "waiting" && say`Waiting to be sent: ${shown.text}`}
            {shown?.state === "refused" && <strong className="text-danger">{shown.message}</strong>}
          </p>
        </div>
      </div>
      <DishDrawing method={method} side={side} first={typedNumber(first)} second={typedNumber(second)} />
    </div>
  );
}

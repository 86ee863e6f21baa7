import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { figure, wrongIn, typedNumber } from "@/ui/number";
import { NumberField } from "@/ui/NumberField";
import { IfFailed } from "@/ui/NotYet";
import { keys } from "@/api/keys";
import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { answer, client } from "@/api/client";
import { Problem, sentenceOf } from "@/api/problem";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";
import { TextField } from "@/ui/Field";
import { Notice } from "@/ui/Notice";
import { type Sizing, useSizing } from "./useSizing";
import { verdictOf, sideName } from "./words";

interface OldSpokesDialogProps {
  sizing: Sizing;
  writes: ReturnType<typeof useSizing>;
  closed: boolean;
  onClose: () => void;
}

/** Lengths of the spokes that came out, by place, and the test with a spare thread. */
export function OldSpokesDialog({ sizing, writes, closed, onClose }: OldSpokesDialogProps) {
  const [spoke, setSpoke] = useState("");
  const [length, setLength] = useState("");
  const problem = writes.old.error instanceof Problem ? writes.old.error : null;
  const send = () => {
    if (wrongIn(length)) return;
    const length_mm = typedNumber(length);
    writes.old.go({ spoke: spoke.trim(), length_mm }, () => {
      setSpoke(nextName(spoke));
      setLength("");
    });
  };
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={say`What the old spokes tell`}
      lead={say`From the inside of the elbow to the end of the thread. The next place follows by itself.`}
    >
      <div className="flex flex-col gap-4">
        {!closed && (
          <form
            className="flex items-start gap-3"
            onSubmit={(event) => {
              event.preventDefault();
              send();
            }}
          >
            <TextField
              label={say`Spoke`}
              value={spoke}
              onChange={setSpoke}
              error={problem?.for("spoke")}
              className="w-24"
              autoFocus
              placeholder="R1"
            />
            <NumberField
              label={say`Length, mm`}
              min={0}
              unit="mm"
              value={length}
              onChange={setLength}
              error={problem?.for("length_mm")}
              className="w-56"
            />
            <Button
              type="submit"
              weight="now"
              className="mt-6"
              disabled={!spoke.trim() || !length.trim() || writes.old.pending}
            >
              <Trans>Log it</Trans>
            </Button>
          </form>
        )}
        {problem && problem.errors.length === 0 && <Notice kind="refusal">{sentenceOf(problem)}</Notice>}
        {sizing.old.map((side) => (
          <section
            key={side.side}
            aria-label={side.side === "R" ? say`Right old spokes` : say`Left old spokes`}
          >
            <h2>
              <Trans>
                {sideName(side.side)}: {side.count} measured, {figure(side.spread_mm, 1)} mm apart;{" "}
                {figure(side.needed_mm, 1)} needed
              </Trans>
            </h2>
            <ul className="mt-1 flex flex-wrap gap-1">
              {side.fits.map((f) => (
                <li
                  key={f.spoke}
                  className={`rounded-sm border px-2 text-sm ${f.usable ? "border-line" : "border-danger text-danger"}`}
                >
                  <strong>{f.spoke}</strong> <span className="font-figure">{figure(f.length_mm)}</span>{" "}
                  {verdictOf(f)}
                  {!closed && (
                    <button
                      type="button"
                      aria-label={say`Take ${f.spoke} back`}
                      className="ml-1 min-h-8 px-1"
                      onClick={() => writes.old.go({ spoke: f.spoke, length_mm: null })}
                    >
                      ×
                    </button>
                  )}
                </li>
              ))}
            </ul>
            {side.explains.map((said) => (
              <Notice key={said} kind={side.rebuild ? "caution" : "news"}>
                {said}
              </Notice>
            ))}
          </section>
        ))}
        <ThreadTest />
      </div>
    </Dialog>
  );
}

/** R4 after R3: the places follow each other while the hand goes round. */
function nextName(spoke: string): string {
  const found = /^\s*([RrLl])(\d+)\s*$/.exec(spoke);
  return found ? `${found[1]?.toUpperCase()}${Number(found[2]) + 1}` : "";
}

function ThreadTest() {
  const [depth, setDepth] = useState("");
  const depth_mm = typedNumber(depth) ?? NaN;
  const found = useQuery({
    queryKey: keys.sum("thread-in-nipple", depth_mm),
    queryFn: () => answer(client.GET("/api/v1/thread-in-nipple", { params: { query: { depth_mm } } })),
    enabled: depth.trim() !== "" && Number.isFinite(depth_mm),
    retry: false,
  });
  return (
    <section aria-label={say`Thread test`} className="border-t border-line pt-3">
      <NumberField
        label={say`Thread-in-nipple test: how deep a spare thread went in from outside, mm`}
        value={depth}
        onChange={setDepth}
        help={say`Screw a spare spoke into the nipple from the tyre's side until it meets the spoke's end.`}
        error={found.error ? sentenceOf(found.error) : undefined}
      />
      <IfFailed of={found} />
      {found.data && (
        <p className="mt-1 text-lg font-bold" aria-live="polite">
          {found.data.why}
        </p>
      )}
    </section>
  );
}

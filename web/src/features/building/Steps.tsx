import { t as say } from "@lingui/core/macro";
import type { Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { classes } from "@/ui/classes";
import { EntryNote } from "@/write/EntryNote";
import type { EntryOf } from "@/write/useOutbox";

type Pending = EntryOf<"strip_step"> | EntryOf<"replace_step">;

interface StepsProps {
  label: string;
  steps: readonly Schemas["Step"][];
  closed: boolean;
  /** By step: what is still on its way, or was refused. */
  pending: ReadonlyMap<string, Pending>;
  onStep: (step: string, done: boolean) => void;
}

/** A procedure, step by step: what to do, with what care, and what is done; the next one stands out. */
export function Steps({ label, steps: known, closed, pending, onStep }: StepsProps) {
  const steps = known.map((s) => {
    const entry = pending.get(s.key);
    return entry?.state === "waiting" ? { ...s, done: entry.body.done } : s;
  });
  const next = steps.find((s) => !s.done)?.key;
  return (
    <ol aria-label={label} className="flex flex-col">
      {steps.map((s, i) => (
        <li
          key={s.key}
          className={classes(
            "flex items-center gap-3 border-t border-line py-1.5",
            s.key === next && "bg-plate",
          )}
        >
          <span className="w-6 text-right font-figure text-muted">{i + 1}</span>
          <div className="flex-1">
            <span className={classes(s.key === next && "text-lg font-bold", s.done && "text-muted")}>
              {s.what}
            </span>
            <EntryNote entry={pending.get(s.key)} />
            {s.why && <span className="block text-sm text-muted">{s.why}</span>}
          </div>
          {!closed && (
            <Button
              weight={s.key === next ? "now" : s.done ? "quiet" : "plain"}
              onClick={() => onStep(s.key, !s.done)}
            >
              {s.done ? say`✓ undo` : say`Done`}
              <span className="sr-only">: {s.what}</span>
            </Button>
          )}
        </li>
      ))}
    </ol>
  );
}

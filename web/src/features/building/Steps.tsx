import type { Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import { classes } from "@/ui/classes";

interface StepsProps {
  label: string;
  steps: readonly Schemas["Step"][];
  closed: boolean;
  busy: boolean;
  onStep: (step: string, done: boolean) => void;
}

/** A procedure, step by step: what to do, with what care, and what is done; the next one stands out. */
export function Steps({ label, steps, closed, busy, onStep }: StepsProps) {
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
          <p className="flex-1">
            <span className={classes(s.key === next && "text-lg font-bold", s.done && "text-muted")}>
              {s.what}
            </span>
            {s.why && <span className="block text-sm text-muted">{s.why}</span>}
          </p>
          {!closed && (
            <Button
              weight={s.key === next ? "now" : s.done ? "quiet" : "plain"}
              disabled={busy}
              onClick={() => onStep(s.key, !s.done)}
            >
              {s.done ? "✓ undo" : "Done"}
              <span className="sr-only">: {s.what}</span>
            </Button>
          )}
        </li>
      ))}
    </ol>
  );
}

import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "@/api/client";
import { Button } from "@/ui/Button";
import type { Deed } from "./useRun";

interface FaultNamerProps {
  run: Schemas["PracticeRun"];
  spoke: string;
  act: (deed: Deed) => void;
}

/** Name what is wrong, at the spoke in hand. */
export function FaultNamer({ run, spoke, act }: FaultNamerProps) {
  return (
    <section aria-label={say`Name the fault`} className="flex flex-col gap-1">
      <p className="font-bold">
        <Trans>At {spoke}, it is</Trans>
      </p>
      <div className="grid grid-cols-5 gap-1.5 max-sm:grid-cols-2">
        {run.findable.map(({ key, text }) => (
          <Button
            key={key}
            className="px-1.5 text-sm leading-tight"
            onClick={() => act({ what: "guess", fault: key, spoke })}
          >
            {text}
          </Button>
        ))}
      </div>
      <ul className="text-sm">
        {/* The last word is the one to think about. */}
        {run.now.answers.slice(-1).map((given) => (
          <li key={given.said}>
            <strong>{given.said}:</strong> {given.says}
          </li>
        ))}
      </ul>
    </section>
  );
}

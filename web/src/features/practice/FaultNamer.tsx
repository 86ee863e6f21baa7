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
    <section aria-label={say`Name the fault`} className="flex flex-col gap-2">
      <p className="font-bold">
        <Trans>At {spoke}, it is</Trans>
      </p>
      <div className="flex flex-wrap gap-2">
        {run.findable.map(({ key, text }) => (
          <Button key={key} className="px-2" onClick={() => act({ what: "guess", fault: key, spoke })}>
            {text}
          </Button>
        ))}
      </div>
      <ul className="text-sm">
        {run.now.answers.map((given, i) => (
          <li key={i}>
            <strong>{given.said}:</strong> {given.says}
          </li>
        ))}
      </ul>
    </section>
  );
}

import { Trans } from "@lingui/react/macro";
import { type ReactNode, useState } from "react";
import { ButtonLink, Button } from "@/ui/Button";
import { classes } from "@/ui/classes";
import { Dialog } from "@/ui/Dialog";
import { glossary, type GlossaryWord } from "./glossary";
import { WordDrawing } from "./WordDrawing";

/** A word of the job that explains itself when it is touched. */
export function WordHelp({
  of,
  className,
  children,
}: {
  of: string;
  className?: string;
  children: ReactNode;
}) {
  const [open, setOpen] = useState(false);
  const found = glossary().find(({ key }) => key === of);
  if (!found) return children;
  return (
    <>
      <button
        type="button"
        onClick={() => setOpen(true)}
        className={classes(
          "-my-3 inline-flex min-h-12 min-w-12 items-center text-left underline decoration-dotted decoration-2 underline-offset-4",
          className,
        )}
      >
        {children}
        <span className="sr-only">
          <Trans>, {found.word}: what is this</Trans>
        </span>
      </button>
      {open && (
        <Dialog open onOpenChange={setOpen} title={found.word}>
          <Explained word={found} />
          <div className="mt-4 flex gap-2">
            <Button weight="now" onClick={() => setOpen(false)}>
              <Trans>Back to work</Trans>
            </Button>
            <ButtonLink weight="quiet" to="/words">
              <Trans>All words</Trans>
            </ButtonLink>
          </div>
        </Dialog>
      )}
    </>
  );
}

/** What a word means, how its figure is taken, and why. */
export function Explained({ word }: { word: GlossaryWord }) {
  return (
    <div className="flex flex-wrap items-start gap-4">
      {word.sketch && <WordDrawing of={word.sketch} />}
      <div className="flex min-w-56 flex-1 flex-col gap-2">
        <p>{word.means}</p>
        {word.how && (
          <p>
            <strong>
              <Trans>How:</Trans>
            </strong>{" "}
            {word.how}
          </p>
        )}
        {word.why && (
          <p>
            <strong>
              <Trans>Why:</Trans>
            </strong>{" "}
            {word.why}
          </p>
        )}
      </div>
    </div>
  );
}

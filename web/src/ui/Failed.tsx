import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { Problem, sentenceOf, ServerFault, Unreachable } from "@/api/problem";
import { Button, ButtonLink } from "./Button";

/** What happened and what to do, for every way in which a question can fail. */
export function whatFailed(error: unknown): { title: string; todo: string; again: boolean } {
  if (error instanceof ServerFault)
    return {
      title: say`Felloe had a fault of its own`,
      todo: say`Nothing is lost. Try again; if it stays, tell the owner when it happened.`,
      again: true,
    };
  if (error instanceof Unreachable)
    return error.status === undefined
      ? {
          title: say`The server cannot be reached`,
          todo: say`Nothing is lost. Check the network and that Felloe runs, then try again.`,
          again: true,
        }
      : {
          title: say`Something in between answered`,
          todo: say`Not Felloe but something between it and this tablet answered ${error.status}. Try again; if it stays, look at the network.`,
          again: true,
        };
  if (error instanceof Problem) return refusal(error);
  return {
    title: say`This could not be shown`,
    todo: say`${sentenceOf(error)} Load the page anew; if it stays, tell the owner.`,
    again: true,
  };
}

function refusal(error: Problem): { title: string; todo: string; again: boolean } {
  switch (error.status) {
    case 404:
      return {
        title: say`There is nothing here`,
        todo: say`It may have been removed, or it belongs to another shop. Go back to the rail and look for it there.`,
        again: false,
      };
    case 403:
      return { title: say`You may not see this`, todo: error.message, again: false };
    case 409:
      return { title: say`This has changed meanwhile`, todo: error.message, again: true };
    default:
      return { title: say`This cannot be worked out yet`, todo: error.message, again: true };
  }
}

interface FailedProps {
  error: unknown;
  onAgain?: () => void;
  /** Within a page that goes on without it. */
  small?: boolean;
}

export function Failed({ error, onAgain, small }: FailedProps) {
  const said = whatFailed(error);
  const again = said.again && onAgain && (
    <Button weight={small ? "plain" : "now"} onClick={onAgain}>
      <Trans>Try again</Trans>
    </Button>
  );
  if (small)
    return (
      <div role="alert" className="flex flex-wrap items-center gap-3 border-l-4 border-danger px-3 py-2">
        <p className="flex-1">
          <strong>{said.title}.</strong> {said.todo}
        </p>
        {again}
      </div>
    );
  return (
    <main className="grid flex-1 place-items-center p-8">
      <div role="alert" className="max-w-lg">
        <h1>{said.title}</h1>
        <p className="mt-2 mb-4 text-lg">{said.todo}</p>
        <div className="flex gap-3">
          {again}
          <ButtonLink to="/">
            <Trans>The rail</Trans>
          </ButtonLink>
        </div>
      </div>
    </main>
  );
}

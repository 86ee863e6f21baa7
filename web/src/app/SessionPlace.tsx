import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import type { Schemas } from "@/api/client";
import { useOnceAtRest } from "@/app/handAtRest";
import { SignInForm } from "@/features/accounts/SignIn";
import { Button } from "@/ui/Button";
import { Dialog } from "@/ui/Dialog";

type Session = Schemas["Session"];

interface SessionPlaceProps {
  person: Session;
  /** Who the server says is signed in, where that is somebody else. */
  other: Session | undefined;
  onSignedIn: (session: Session) => void;
}

/** Over the screen, which stays as it is: sign in again, or say that somebody else goes on here. */
export function SessionPlace({ person, other, onSignedIn }: SessionPlaceProps) {
  const rested = useOnceAtRest();
  return (
    <Dialog
      open={rested}
      onOpenChange={() => undefined}
      title={other ? say`${other.name} is signed in on this tablet now` : say`Your session is over`}
      lead={
        other
          ? say`This screen is ${person.name}’s. What ${person.name} has entered waits, and is sent in no other name.`
          : say`Sign in to go on where you are. Nothing on this screen is lost; what you entered is kept on this tablet.`
      }
    >
      {other && (
        <Button className="mb-4 w-full" onClick={() => onSignedIn(other)}>
          <Trans>Go on as {other.name}</Trans>
        </Button>
      )}
      <SignInForm username={person.username ?? ""} onSignedIn={onSignedIn} />
    </Dialog>
  );
}

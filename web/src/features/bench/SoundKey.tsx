import { t as say } from "@lingui/core/macro";
import { useEffect } from "react";
import { classes } from "@/ui/classes";
import { Button } from "@/ui/Button";
import { askHearing, nextVoice, useVoice } from "./sound";

/** Where the head of a screen is full. */
const SHORT = { quiet: "♪", tick: "♪", voice: "♪»", hear: "«♪»" } as const;

/** What this tablet lets be heard, and whether it listens; each press goes on to the next that it can. */
export function SoundKey({ compact = false }: { compact?: boolean }) {
  const voice = useVoice();
  useEffect(() => void askHearing(), []);
  const text = {
    quiet: say`♪ Quiet`,
    tick: say`♪ Tones`,
    voice: say`♪ Voice`,
    hear: say`♪ Voice, listens`,
  }[voice];
  return (
    <Button
      onClick={nextVoice}
      aria-label={say`Sound: ${text}`}
      title={text}
      className={classes(compact && "px-2 max-xl:px-1")}
    >
      <span className={classes(compact && "max-xl:hidden")}>{text}</span>
      {compact && (
        <span aria-hidden="true" className={classes("xl:hidden", voice === "quiet" && "line-through")}>
          {SHORT[voice]}
        </span>
      )}
    </Button>
  );
}

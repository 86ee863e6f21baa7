import { t as say } from "@lingui/core/macro";
import type { ReactNode } from "react";
import { classes } from "./classes";

/** A sentence that matters: a caution, a refusal, or plain news. */
export function Notice({ kind, children }: { kind: "caution" | "refusal" | "news"; children: ReactNode }) {
  const word = { caution: say`Caution`, refusal: say`Not done`, news: say`Note` }[kind];
  return (
    <div
      role={kind === "refusal" ? "alert" : "note"}
      className={classes(
        "rounded-sm border-l-4 px-3 py-2 text-sm",
        kind === "news" ? "border-line-strong bg-sunk" : "border-danger bg-danger-soft",
      )}
    >
      <strong className="mr-1">{word}:</strong>
      {children}
    </div>
  );
}

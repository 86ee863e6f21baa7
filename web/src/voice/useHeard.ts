import { useLingui } from "@lingui/react";
import { useEffect, useRef } from "react";
import { stopHearing, useVoice } from "@/features/bench/sound";
import { listen } from "./hearing";
import { heard } from "./phrases";

interface Said {
  /** A figure that was said: shown and read back, recorded by nothing but "next". */
  onFigure?: (text: string) => void;
  onNext?: () => void;
  onBack?: () => void;
  onAgain?: () => void;
}

/** Do what is said at the stand, where this tablet was told to listen and can by itself. */
export function useHeard(said: Said): void {
  const voice = useVoice();
  const { i18n } = useLingui();
  const newest = useRef(said);
  useEffect(() => {
    newest.current = said;
  });
  useEffect(() => {
    if (voice !== "hear") return;
    const language = i18n.locale;
    return listen(
      language,
      (phrase) => {
        const found = heard(phrase, language);
        if (!found || document.querySelector("[role=dialog], [role=menu]")) return;
        if (found.what === "figure") newest.current.onFigure?.(found.text);
        else if (found.what === "next") newest.current.onNext?.();
        else if (found.what === "back") newest.current.onBack?.();
        else newest.current.onAgain?.();
      },
      stopHearing,
    );
  }, [voice, i18n.locale]);
}

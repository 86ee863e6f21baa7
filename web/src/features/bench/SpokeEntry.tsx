import { word } from "@/ui/words";
import { t as say } from "@lingui/core/macro";
import { Trans } from "@lingui/react/macro";
import { type KeyboardEvent, useRef, useState } from "react";
import { couldBeNumber, stepped, typedNumber } from "@/ui/number";
import { useKeptFocus } from "@/ui/useKeptFocus";
import { readBack } from "./sound";
import { useHeard } from "@/voice/useHeard";
import { WordHelp } from "@/help/WordHelp";
import { Keypad } from "./Keypad";
import type { Kind, Shown } from "./useReadings";

interface SpokeEntryProps {
  kind: Kind;
  spoke: string;
  unitText: string;
  halfStep: number;
  shown: Shown | undefined;
  last: string | undefined;
  /** Takes a figure; a sentence comes back where it means nothing. */
  onRecord: (value: number) => string | undefined;
  /** A value that an instrument offers: taken by Enter on an empty figure. */
  offered?: number | undefined;
  onBack: () => void;
  onForward: () => void;
  onAcross: () => void;
  onMode: (by: 1 | -1) => void;
  /** The spoke in work between its neighbours in the order of reading. */
  around: readonly { name: string; text: string; state?: Shown["state"] | undefined }[];
}

/** One big figure for the spoke at the bottom of the wheel. Keeps the focus; nothing is lost by a slip. */
export function SpokeEntry(props: SpokeEntryProps) {
  // A new spoke or kind starts with an empty figure: the key makes a fresh entry of it.
  return <Entry key={`${props.kind} ${props.spoke}`} {...props} />;
}

function Entry({
  kind,
  spoke,
  unitText,
  halfStep,
  shown,
  last,
  onRecord,
  offered,
  onBack,
  onForward,
  onAcross,
  onMode,
  around,
}: SpokeEntryProps) {
  const input = useRef<HTMLInputElement>(null);
  const [text, setText] = useState("");
  const [slip, setSlip] = useState("");
  useKeptFocus(input);

  const record = () => {
    if (text === "" && offered === undefined) return onForward();
    const value = text === "" ? (offered ?? null) : typedNumber(text);
    if (value === null) return setSlip(say`That is no number.`);
    const refused = onRecord(value);
    if (refused) {
      setText("");
      return setSlip(refused);
    }
    // The last spoke of the walk stays in place: what was typed is recorded, not typed any more.
    setText("");
  };
  const put = (next: string) => {
    setSlip("");
    if (couldBeNumber(next)) setText(next);
  };
  const press = (key: string) => {
    const base =
      typedNumber(text) ??
      typedNumber(shown?.text ?? "") ??
      (kind === "tension" ? typedNumber(last ?? "") : null);
    if (key === "Enter") record();
    else if (key === "Backspace") {
      if (text === "") onBack();
      else setText(text.slice(0, -1));
    } else if ((key === "+" || key === "-") && (kind === "tension" || text !== "") && base !== null) {
      put(stepped(base, key === "+" ? halfStep : -halfStep));
    } else put(text + key);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const moves: Record<string, () => void> = {
      ArrowLeft: onBack,
      ArrowRight: onForward,
      ArrowUp: onAcross,
      ArrowDown: onAcross,
      "*": () => onMode(1),
      "/": () => onMode(-1),
    };
    const move = moves[event.key];
    // A key held down records one reading, not four; the arrows may walk.
    if (
      event.repeat &&
      (["Enter", "*", "/"].includes(event.key) || (event.key === "Backspace" && text === ""))
    ) {
      event.preventDefault();
      return;
    }
    if (move) {
      event.preventDefault();
      move();
    } else if (["Enter", "+", "-"].includes(event.key) || (event.key === "Backspace" && text === "")) {
      event.preventDefault();
      press(event.key);
    }
  };
  // What is said stands in the figure as if it was typed, and is said back; only "next" records it.
  useHeard({
    onFigure: (said) => {
      put(said);
      readBack(said);
    },
    onNext: record,
    onBack: () => (text === "" ? onBack() : setText("")),
    onAgain: () => readBack(text || (shown?.text ?? "")),
  });
  const message = slip || (shown?.state === "refused" ? shown.message : "");

  return (
    <div className="flex items-start gap-6 max-xl:gap-4 max-sm:flex-wrap max-sm:gap-y-1">
      <div className="flex w-80 flex-col gap-1 max-xl:w-60 max-sm:grid max-sm:w-full max-sm:grid-cols-[auto_1fr] max-sm:items-end max-sm:gap-x-4 max-sm:gap-y-0">
        <div className="flex flex-col">
          <span className="flex items-center justify-between gap-2">
            <label htmlFor="figure" className="text-lg text-muted">
              <Trans>{word(kind)} of</Trans>
            </label>
            <WordHelp of={kind} className="justify-center">
              <Trans>how?</Trans>
            </WordHelp>
          </span>
          <p
            className="font-figure text-[4.5rem] leading-none font-bold max-sm:text-[2.5rem]"
            aria-hidden="true"
          >
            {spoke}
          </p>
        </div>
        <div className="flex items-baseline gap-3 border-b-4 border-ink focus-within:border-signal">
          <input
            ref={input}
            id="figure"
            aria-label={say`${word(kind)} of ${spoke}`}
            aria-describedby="figure-note"
            aria-invalid={Boolean(message)}
            inputMode="none"
            autoComplete="off"
            autoFocus
            value={text}
            placeholder={shown?.text ?? ""}
            onChange={(event) => put(event.target.value)}
            onKeyDown={onKeyDown}
            className="w-full min-w-0 bg-transparent font-figure text-[4rem] leading-none font-bold shadow-none max-sm:text-[2.75rem] outline-none placeholder:font-normal placeholder:text-muted"
          />
          <span className="text-lg whitespace-nowrap text-muted">
            {text === "" && shown?.unit ? shown.unit : unitText}
          </span>
        </div>
        <p
          id="figure-note"
          role="status"
          className={`col-span-full min-h-7 text-base ${message ? "font-bold text-danger" : "text-muted"}`}
        >
          {message || savedText(shown)}
        </p>
      </div>
      <Keypad onKey={press} />
      <ol
        aria-label={say`Round this spoke`}
        className="flex flex-1 flex-col gap-1 pt-2 text-xl max-lg:hidden"
      >
        {around.map((place) => (
          <li
            key={place.name}
            className={`flex max-w-52 justify-between rounded-sm px-3 py-1 font-figure ${place.name === spoke ? "bg-sunk font-bold" : "text-muted"}`}
          >
            <span>{place.name}</span>
            <span>
              {place.state === "waiting" && <span title={say`on its way`}>… </span>}
              {place.state === "refused" && <span className="text-danger">✗ </span>}
              {place.text || "–"}
            </span>
          </li>
        ))}
      </ol>
    </div>
  );
}

function savedText(shown: Shown | undefined): string {
  if (!shown) return say`Not read yet`;
  if (shown.state === "waiting") return say`${shown.text} kept here, being sent`;
  if (shown.repeats) {
    const { kept, leftOut } = shown.repeats;
    const mean = say`✓ Mean of ${kept.length} saved: ${kept.join(" · ")}.`;
    return leftOut.length > 0 ? say`${mean} Left out: ${leftOut.join(" · ")}.` : mean;
  }
  return say`✓ ${shown.text} saved. Type to mend it.`;
}

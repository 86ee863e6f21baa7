/** The browser's own recogniser of speech, where it works on the tablet itself; what goes to a server elsewhere is not used. */
interface Recogniser extends EventTarget {
  lang: string;
  continuous: boolean;
  interimResults: boolean;
  processLocally: boolean;
  start: () => void;
  abort: () => void;
}
interface RecogniserClass {
  new (): Recogniser;
  available?: (asked: { langs: string[]; processLocally: boolean }) => Promise<string>;
}
interface ResultEvent extends Event {
  resultIndex: number;
  results: { isFinal: boolean; 0: { transcript: string } }[];
}

/* eslint-disable-next-line lingui/no-unlocalized-strings -- tags of languages */
const TAGS: Record<string, string> = { en: "en-GB", de: "de-DE" };
const AGAIN_MS = 300;

const recogniserClass = () => (window as { SpeechRecognition?: RecogniserClass }).SpeechRecognition;
export const tagOf = (language: string) => TAGS[language] ?? language;

/** Whether speech is understood on this tablet, with no network. */
export async function canHear(language: string): Promise<boolean> {
  try {
    const found = await recogniserClass()?.available?.({ langs: [tagOf(language)], processLocally: true });
    return found === "available";
  } catch {
    return false;
  }
}

/** While the tablet speaks itself, it does not listen. */
const speaking = () => "speechSynthesis" in window && window.speechSynthesis.speaking;

/** Listen until stopped; each finished phrase is handed on. `onLost`: the microphone is refused, nothing will be heard. */
export function listen(language: string, onPhrase: (said: string) => void, onLost: () => void): () => void {
  const Class = recogniserClass();
  if (!Class) {
    onLost();
    return () => undefined;
  }
  let stopped = false;
  const recogniser = new Class();
  recogniser.lang = tagOf(language);
  recogniser.continuous = true;
  recogniser.interimResults = false;
  recogniser.processLocally = true;
  recogniser.addEventListener("result", (event) => {
    const { resultIndex, results } = event as ResultEvent;
    if (speaking()) return;
    for (const result of [...results].slice(resultIndex)) if (result.isFinal) onPhrase(result[0].transcript);
  });
  recogniser.addEventListener("error", (event) => {
    const error = (event as Event & { error?: string }).error ?? "";
    if (["not-allowed", "service-not-allowed", "language-not-supported", "audio-capture"].includes(error)) {
      stopped = true;
      onLost();
    }
  });
  // A recogniser stops by itself after a silence.
  recogniser.addEventListener("end", () => {
    if (!stopped) setTimeout(() => !stopped && recogniser.start(), AGAIN_MS);
  });
  recogniser.start();
  return () => {
    stopped = true;
    recogniser.abort();
  };
}

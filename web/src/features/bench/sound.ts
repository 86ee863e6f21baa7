import { i18n } from "@lingui/core";
import { t as say } from "@lingui/core/macro";
import { useSyncExternalStore } from "react";
import { canHear, tagOf } from "@/voice/hearing";

/**
 * What is heard at the stand on this tablet: nothing, tones, tones and the voice of the browser, or all that with the tablet
 * listening for figures and a few words.
 */
export type Voice = "quiet" | "tick" | "voice" | "hear";

const KEY = "felloe.sound";
const ALL: readonly Voice[] = ["quiet", "tick", "voice", "hear"];
let chosen: Voice = ALL.find((v) => v === localStorage.getItem(KEY)) ?? "quiet";
let hears = false;
let context: AudioContext | null = null;
const listeners = new Set<() => void>();

export function canSpeak(): boolean {
  return "speechSynthesis" in window && window.speechSynthesis.getVoices().length > 0;
}

function choose(next: Voice): void {
  chosen = next;
  localStorage.setItem(KEY, chosen);
  listeners.forEach((listener) => listener());
}

/** Ask the browser whether it understands speech by itself; until it says so, listening is not offered. */
export async function askHearing(): Promise<void> {
  hears = await canHear(i18n.locale);
  if (!hears && chosen === "hear") choose("voice");
}

export function nextVoice(): void {
  const usable = ALL.filter((v) => (v !== "voice" || canSpeak()) && (v !== "hear" || hears));
  choose(usable[(usable.indexOf(chosen) + 1) % usable.length] ?? "quiet");
  if (chosen !== "quiet") tone(880, 0, 0.05);
}

/** The microphone is refused: the tablet speaks on, and says that it no longer listens. */
export function stopHearing(): void {
  if (chosen === "hear") choose(canSpeak() ? "voice" : "tick");
}

export function useVoice(): Voice {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => chosen,
  );
}

function tone(hz: number, after: number, seconds: number): void {
  context ??= new AudioContext();
  const start = context.currentTime + after;
  const gain = context.createGain();
  gain.gain.setValueAtTime(0.25, start);
  gain.gain.exponentialRampToValueAtTime(0.001, start + seconds);
  const oscillator = context.createOscillator();
  oscillator.frequency.value = hz;
  oscillator.connect(gain).connect(context.destination);
  oscillator.start(start);
  oscillator.stop(start + seconds);
}

function speak(text: string): void {
  if ((chosen !== "voice" && chosen !== "hear") || !canSpeak()) return;
  window.speechSynthesis.cancel();
  const utterance = new SpeechSynthesisUtterance(text);
  utterance.lang = tagOf(i18n.locale);
  window.speechSynthesis.speak(utterance);
}

const spokeText = (spoke: string) => `${spoke.startsWith("R") ? say`right` : say`left`} ${spoke.slice(1)}`;

/** A reading is saved: one tick, and read back where there is a voice. */
export function confirm(spoke: string, value: string): void {
  if (chosen === "quiet") return;
  tone(1200, 0, 0.04);
  speak(`${spokeText(spoke)}, ${value}`);
}

/** A figure that was heard is said back before anything is done with it. */
export function readBack(text: string): void {
  speak(text.replace("-", `${say`minus`} `));
}

/** A reading was refused: three low tones, so that nobody has to look to know. */
export function refuse(): void {
  if (chosen === "quiet") return;
  for (const after of [0, 0.14, 0.28]) tone(190, after, 0.1);
}

/** The nipple that comes next: two tones that rise to tighten and fall to ease, its name and how far where there is a voice. */
export function announce(spoke: string, turns: number, far: string): void {
  if (chosen === "quiet" || turns === 0) return;
  const [first, second] = turns > 0 ? [440, 660] : [660, 440];
  tone(first, 0, 0.12);
  tone(second, 0.14, 0.18);
  speak(`${spokeText(spoke)}, ${turns > 0 ? say`tighten` : say`ease`} ${far}`);
}

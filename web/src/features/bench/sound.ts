import { t as say } from "@lingui/core/macro";
import { useSyncExternalStore } from "react";

/** How a saved reading is confirmed on this tablet: not at all, by a tick, or by a tick and the voice of the browser. */
export type Voice = "quiet" | "tick" | "voice";

const KEY = "felloe.sound";
const ALL: readonly Voice[] = ["quiet", "tick", "voice"];
let chosen: Voice = ALL.find((v) => v === localStorage.getItem(KEY)) ?? "quiet";
let context: AudioContext | null = null;
const listeners = new Set<() => void>();

export function canSpeak(): boolean {
  return "speechSynthesis" in window && window.speechSynthesis.getVoices().length > 0;
}

export function nextVoice(): void {
  const usable = ALL.filter((v) => v !== "voice" || canSpeak());
  chosen = usable[(usable.indexOf(chosen) + 1) % usable.length] ?? "quiet";
  localStorage.setItem(KEY, chosen);
  if (chosen !== "quiet") tone(880, 0, 0.05);
  listeners.forEach((listener) => listener());
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

/** A reading is saved: one tick, and read back where there is a voice. */
export function confirm(spoke: string, value: string): void {
  if (chosen === "quiet") return;
  tone(1200, 0, 0.04);
  if (chosen === "voice" && canSpeak()) {
    window.speechSynthesis.cancel();
    const [side, number] = [spoke[0] === "R" ? say`right` : say`left`, spoke.slice(1)];
    window.speechSynthesis.speak(new SpeechSynthesisUtterance(`${side} ${number}, ${value}`));
  }
}

/** A reading was refused: two falling tones, so that nobody has to look to know. */
export function refuse(): void {
  if (chosen === "quiet") return;
  tone(500, 0, 0.12);
  tone(300, 0.15, 0.2);
}

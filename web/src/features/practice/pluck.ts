let playing: HTMLAudioElement | undefined;

/** Hear one spoke of a practice wheel: the next one cuts the last one off. */
export function playPluck(runId: string, spoke: string): void {
  playing?.pause();
  playing = new Audio(`/api/v1/practice/runs/${runId}/sound/${spoke}`);
  // A tablet that may not sound stays silent.
  playing.play().catch(() => undefined);
}

/** Record the microphone as an uncompressed WAV: the server listens to it, nothing of it is kept. */
export interface Recording {
  stop: () => Promise<Blob>;
}

export async function record(): Promise<Recording> {
  const stream = await navigator.mediaDevices.getUserMedia({
    audio: { echoCancellation: false, noiseSuppression: false, autoGainControl: false },
  });
  const context = new AudioContext();
  await context.audioWorklet.addModule(new URL("./capture.worklet.js", import.meta.url).href);
  const source = context.createMediaStreamSource(stream);
  const node = new AudioWorkletNode(context, "capture");
  const parts: Float32Array[] = [];
  node.port.onmessage = (event: MessageEvent<Float32Array>) => parts.push(event.data);
  source.connect(node);
  return {
    stop: async () => {
      source.disconnect();
      stream.getTracks().forEach((track) => track.stop());
      const rate = context.sampleRate;
      await context.close();
      return wav(parts, rate);
    },
  };
}

/** RIFF/WAVE, PCM, one channel, 16 bits. */
export function wav(parts: readonly Float32Array[], rate: number): Blob {
  const count = parts.reduce((n, p) => n + p.length, 0);
  const view = new DataView(new ArrayBuffer(44 + 2 * count));
  const text = (at: number, s: string) => [...s].forEach((c, i) => view.setUint8(at + i, c.charCodeAt(0)));
  text(0, "RIFF");
  view.setUint32(4, 36 + 2 * count, true);
  text(8, "WAVEfmt ");
  view.setUint32(16, 16, true);
  view.setUint16(20, 1, true);
  view.setUint16(22, 1, true);
  view.setUint32(24, rate, true);
  view.setUint32(28, 2 * rate, true);
  view.setUint16(32, 2, true);
  view.setUint16(34, 16, true);
  text(36, "data");
  view.setUint32(40, 2 * count, true);
  let at = 44;
  for (const part of parts)
    for (const sample of part) {
      view.setInt16(at, Math.max(-1, Math.min(1, sample)) * 0x7fff, true);
      at += 2;
    }
  return new Blob([view.buffer], { type: "audio/wav" });
}

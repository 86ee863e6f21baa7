import { expect, it } from "vitest";
import { wav } from "./recorder";

/** The parts of a RIFF/WAVE file, read by the format's own description (Multimedia Programming Interface 1.0, 1991). */
async function read(blob: Blob) {
  const view = new DataView(await blob.arrayBuffer());
  const text = (at: number) =>
    String.fromCharCode(...Array.from({ length: 4 }, (_, i) => view.getUint8(at + i)));
  const samples = Array.from({ length: view.getUint32(40, true) / 2 }, (_, i) =>
    view.getInt16(44 + 2 * i, true),
  );
  return {
    names: [text(0), text(8), text(12), text(36)],
    riffSize: view.getUint32(4, true),
    form: [view.getUint16(20, true), view.getUint16(22, true), view.getUint16(34, true)],
    rate: view.getUint32(24, true),
    bytesPerSecond: view.getUint32(28, true),
    samples,
    size: view.byteLength,
  };
}

it("writes one channel of 16 bits with sizes that agree", async () => {
  const file = await read(wav([new Float32Array([0, 0.5]), new Float32Array([-0.5])], 48_000));
  expect(file.names).toEqual(["RIFF", "WAVE", "fmt ", "data"]);
  expect(file.form).toEqual([1, 1, 16]);
  expect(file.rate).toBe(48_000);
  expect(file.bytesPerSecond).toBe(96_000);
  expect(file.riffSize).toBe(file.size - 8);
});

it("joins the parts in order, and stops what is too loud at the edge instead of turning it over", async () => {
  const file = await read(wav([new Float32Array([0, 0.5, -0.5]), new Float32Array([1.7, -1.7])], 44_100));
  expect(file.samples).toEqual([0, 16383, -16383, 32767, -32767]);
});

it("is a whole file even of nothing", async () => {
  const file = await read(wav([], 44_100));
  expect([file.samples, file.size]).toEqual([[], 44]);
});

import { encodeKiss, KissDecoder } from '@mistpeak/core/kiss/codec';
import { FEND } from '@mistpeak/core/kiss/commands';
import { quickest } from './quickest.js';

const SIZE = 16 << 20;
const CHUNK = 4096;

/** KISS decoding against a loop that only looks for FEND in the same octets. */
export function kissBenchmark(): void {
  const payload = Uint8Array.from({ length: 90 }, (_, i) => (i * 37) & 0xff);
  const frame = encodeKiss({ port: 0, command: 'data', payload });
  const count = Math.ceil(SIZE / frame.length);
  const stream = new Uint8Array(count * frame.length);
  for (let i = 0; i < count; i++) stream.set(frame, i * frame.length);
  const decode = (): number => {
    const decoder = new KissDecoder();
    let frames = 0;
    for (let at = 0; at < stream.length; at += CHUNK)
      frames += decoder.push(stream.subarray(at, at + CHUNK)).length;
    return frames;
  };
  const scan = (): number => {
    let ends = 0;
    for (let i = 0; i < stream.length; i++) if (stream[i] === FEND) ends++;
    return ends;
  };
  const decodeMs = quickest(decode);
  const scanMs = quickest(scan);
  const rate = (ms: number): string => `${Math.round(stream.length / 1e6 / (ms / 1000))} MB/s`;
  console.log(
    `  decoded ${rate(decodeMs)}, plain scan ${rate(scanMs)}: ratio ${(scanMs / decodeMs).toFixed(2)} (aim 0.33)`,
  );
}

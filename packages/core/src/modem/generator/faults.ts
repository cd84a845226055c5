import type { Tones } from '../tones.js';

/** Looked up once: the sample loops call them a million times a second. */
const { sin, max, min } = Math;

/** Each changes the samples in place; amplitudes as shares of full scale. */
export function clip(samples: Float32Array, at: number): void {
  for (let i = 0; i < samples.length; i++) samples[i] = max(-at, min(at, samples[i] as number));
}

/** Hum of the mains, or a whistle in the band. */
export function addTone(samples: Float32Array, rateHz: number, hz: number, amplitude: number): void {
  const step = (2 * Math.PI * hz) / rateHz;
  for (let i = 0; i < samples.length; i++) samples[i] = (samples[i] as number) + amplitude * sin(step * i);
}

export function addOffset(samples: Float32Array, offset: number): void {
  for (let i = 0; i < samples.length; i++) samples[i] = (samples[i] as number) + offset;
}

export function scale(samples: Float32Array, by: number): void {
  for (let i = 0; i < samples.length; i++) samples[i] = by * (samples[i] as number);
}

/** A sound clock that runs fast by so many millionths: all of it, bits and tones. */
export const offClock = ({ baud, markHz, spaceHz }: Tones, ppm: number): Tones => {
  const by = 1 + ppm / 1e6;
  return { baud: baud * by, markHz: markHz * by, spaceHz: spaceHz * by };
};

/** Both tones beside their place: a single-sideband receiver off frequency. */
export const offTune = (tones: Tones, hz: number): Tones => ({
  ...tones,
  markHz: tones.markHz + hz,
  spaceHz: tones.spaceHz + hz,
});

/** Bits of a transmission of which the receiver heard no more than so many before the flag that begins the first frame. */
export function cutPreamble(bits: Uint8Array, flags: number, bitsHeard: number): Uint8Array {
  return bits.subarray(Math.max(0, 8 * flags - bitsHeard));
}

import type { Tones } from '../tones.js';

/** Looked up once: the sample loops call them a million times a second. */
const { sqrt } = Math;

/**
 * The window over which a tone is measured: its length in bits, and how far it falls at its ends (0 not at all, 1 to zero).
 * Of those tried the best in white noise: 1.5 dB better than a raised cosine over 1.15 bits.
 */
const WINDOW_BITS = 1.4;
const FALL = 0.5;

/** The strength of each tone, sample by sample: quadrature correlation over a little more than one bit. */
export class Envelopes {
  /** Of the last push: amplitudes of mark and space. */
  mark = new Float32Array(0);
  space = new Float32Array(0);
  private readonly length: number;
  private readonly kernels: readonly [Float32Array, Float32Array, Float32Array, Float32Array];
  private readonly past: Float32Array;
  private at = 0;

  constructor(rateHz: number, { baud, markHz, spaceHz }: Tones) {
    this.length = Math.max(3, Math.round((WINDOW_BITS * rateHz) / baud));
    this.past = new Float32Array(2 * this.length);
    const { length } = this;
    const window = Float32Array.from(
      { length },
      (_, i) => 1 - FALL * Math.cos((2 * Math.PI * (i + 0.5)) / length),
    );
    // A sine of amplitude 1 gives 1.
    const scale = 2 / window.reduce((sum, one) => sum + one, 0);
    const kernel = (hz: number, wave: (x: number) => number): Float32Array =>
      window.map((one, i) => scale * one * wave((2 * Math.PI * hz * i) / rateHz));
    this.kernels = [
      kernel(markHz, Math.cos),
      kernel(markHz, Math.sin),
      kernel(spaceHz, Math.cos),
      kernel(spaceHz, Math.sin),
    ];
  }

  push(samples: Float32Array, count: number): void {
    if (this.mark.length < count) {
      this.mark = new Float32Array(count);
      this.space = new Float32Array(count);
    }
    const { past, length, mark, space } = this;
    const [markCos, markSin, spaceCos, spaceSin] = this.kernels;
    let { at } = this;
    for (let i = 0; i < count; i++) {
      const sample = samples[i] as number;
      past[at] = sample;
      past[at + length] = sample;
      at = at + 1 === length ? 0 : at + 1;
      let a = 0;
      let b = 0;
      let c = 0;
      let d = 0;
      for (let tap = 0; tap < length; tap++) {
        const x = past[at + tap] as number;
        a += x * (markCos[tap] as number);
        b += x * (markSin[tap] as number);
        c += x * (spaceCos[tap] as number);
        d += x * (spaceSin[tap] as number);
      }
      mark[i] = sqrt(a * a + b * b);
      space[i] = sqrt(c * c + d * d);
    }
    this.at = at;
  }
}

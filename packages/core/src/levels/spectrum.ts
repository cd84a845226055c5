import { Fourier } from './fourier.js';

/** lines: so many from 0 Hz on, binHz apart. */
export interface SpectrumShape {
  readonly binHz: number;
  readonly lines: number;
}

/** Beyond, a voice receiver passes nothing that matters to packets. */
const UP_TO_HZ = 5000;
/** One transform looks at no more than this: the tones of two packets in turn stay apart. */
const MOST_MS = 50;
const LOWEST_DBFS = -127;

/** dBFS of a line as an octet, and back. */
export const lineOf = (dbfs: number): number => Math.max(0, Math.min(127, Math.round(dbfs - LOWEST_DBFS)));
export const dbfsOf = (line: number): number => line + LOWEST_DBFS;

/** The spectrum of the last sound, whenever it is read; a full-scale sine stands at 0 dBFS. */
export class SpectrumMeter {
  readonly shape: SpectrumShape;
  private readonly fourier: Fourier;
  private readonly ring: Float64Array;
  private readonly window: Float64Array;
  private readonly re: Float64Array;
  private readonly im: Float64Array;
  private at = 0;

  constructor(rateHz: number) {
    const length = 2 ** Math.floor(Math.log2((rateHz * MOST_MS) / 1000));
    this.fourier = new Fourier(length);
    this.ring = new Float64Array(length);
    this.re = new Float64Array(length);
    this.im = new Float64Array(length);
    // von Hann; its sum is half the length, so that a sine of amplitude 1 makes a line of a quarter of it.
    this.window = Float64Array.from({ length }, (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * i) / length));
    const binHz = rateHz / length;
    this.shape = { binHz, lines: Math.min(length / 2, Math.floor(UP_TO_HZ / binHz) + 1) };
  }

  push(samples: Float32Array): void {
    const { ring } = this;
    for (let i = 0; i < samples.length; i++) {
      const sample = samples[i] as number;
      ring[this.at] = sample - sample === 0 ? sample : 0;
      this.at = (this.at + 1) & (ring.length - 1);
    }
  }

  read(): Uint8Array {
    const { re, im, ring, window, at } = this;
    const { length } = ring;
    for (let i = 0; i < length; i++)
      re[i] = (window[i] as number) * (ring[(at + i) & (length - 1)] as number);
    im.fill(0);
    this.fourier.transform(re, im);
    const full = length / 4;
    return Uint8Array.from({ length: this.shape.lines }, (_, i) =>
      lineOf(20 * Math.log10(Math.hypot(re[i] as number, im[i] as number) / full + Number.MIN_VALUE)),
    );
  }
}

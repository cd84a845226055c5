/** Looked up once: the sample loops call them a million times a second. */
const { cos, sqrt, exp } = Math;

/** De-emphasis falls by 6 dB an octave over all of the voice band (TIA-603: 300 to 3000 Hz): its corner lies below. */
const CORNER_HZ = 212;
/** What emphasis leaves as it is. */
const PIVOT_HZ = 1000;

/** Pre-emphasis rises by 6 dB an octave above 212 Hz (750 µs), de-emphasis is its exact reverse; 1 kHz stays as it is. */
export class Emphasis {
  private readonly pole: number;
  private readonly gain: number;
  private before = 0;

  constructor(
    private readonly rateHz: number,
    private readonly kind: 'pre' | 'de',
  ) {
    this.pole = exp((-2 * Math.PI * CORNER_HZ) / rateHz);
    const rise = this.rise(PIVOT_HZ);
    this.gain = kind === 'pre' ? 1 / rise : rise;
  }

  /** Amplitude at a frequency, 1 at 1 kHz. */
  gainAt(hz: number): number {
    return this.kind === 'pre' ? this.gain * this.rise(hz) : this.gain / this.rise(hz);
  }

  /** Into out, which is as long; it may be the same. */
  push(samples: Float32Array, out: Float32Array): void {
    const { pole, gain } = this;
    let { before } = this;
    if (this.kind === 'de')
      for (let i = 0; i < samples.length; i++)
        out[i] = before = pole * before + gain * (samples[i] as number);
    else
      for (let i = 0; i < samples.length; i++) {
        const sample = samples[i] as number;
        out[i] = gain * (sample - pole * before);
        before = sample;
      }
    this.before = before;
  }

  private rise(hz: number): number {
    return sqrt(1 - 2 * this.pole * cos((2 * Math.PI * hz) / this.rateHz) + this.pole ** 2);
  }
}

/** Detectors work at about this rate: enough for the upper tone and its sidebands, and little to reckon. */
const WORKING_RATE_HZ = 9600;

/** Every how manyth sample is kept. */
export const decimationOf = (rateHz: number): number => Math.max(1, Math.floor(rateHz / WORKING_RATE_HZ));

/** A low-pass, windowed sinc (Hamming); taps of sum 1. cutoff: as a share of the rate. */
export function lowPass(cutoff: number, taps: number): Float32Array {
  const middle = (taps - 1) / 2;
  const raw = Array.from({ length: taps }, (_, i) => {
    const x = i - middle;
    const sinc = x === 0 ? 2 * cutoff : Math.sin(2 * Math.PI * cutoff * x) / (Math.PI * x);
    return sinc * (0.54 - 0.46 * Math.cos((2 * Math.PI * i) / Math.max(1, taps - 1)));
  });
  const sum = raw.reduce((total, tap) => total + tap, 0);
  return Float32Array.from(raw, (tap) => tap / sum);
}

/** Keeps every nth sample behind a low-pass; blocks of any length. */
export class Decimator {
  readonly rateHz: number;
  private readonly every: number;
  private readonly taps: Float32Array;
  /** The last samples, twice over, so that a window of them is never cut by the end of the array. */
  private readonly past: Float32Array;
  private at = 0;
  private skip = 0;

  constructor(rateHz: number) {
    this.every = decimationOf(rateHz);
    this.rateHz = rateHz / this.every;
    // Half-way between the band and its image: what folds back falls above the band.
    this.taps = this.every === 1 ? Float32Array.of(1) : lowPass(0.5 / this.every, 8 * this.every + 1);
    this.past = new Float32Array(2 * this.taps.length);
  }

  /** Into out, which holds samples/every + 1; returns how many. Not a number and infinities count as silence. */
  push(samples: Float32Array, out: Float32Array): number {
    const { taps, past, every } = this;
    const length = taps.length;
    let { at, skip } = this;
    let count = 0;
    for (let i = 0; i < samples.length; i++) {
      const sample = samples[i] as number;
      const clean = sample - sample === 0 ? sample : 0;
      past[at] = clean;
      past[at + length] = clean;
      at = at + 1 === length ? 0 : at + 1;
      if (skip > 0) {
        skip--;
        continue;
      }
      skip = every - 1;
      let sum = 0;
      for (let tap = 0; tap < length; tap++) sum += (taps[tap] as number) * (past[at + tap] as number);
      out[count++] = sum;
    }
    this.at = at;
    this.skip = skip;
    return count;
  }
}

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
  /** The first half of the taps, and the one in the middle: they are symmetric. */
  private readonly taps: Float32Array;
  /** What the taps still reach back to, and the block. */
  private line: Float32Array;
  private skip = 0;

  constructor(rateHz: number) {
    this.every = decimationOf(rateHz);
    this.rateHz = rateHz / this.every;
    // Half-way between the band and its image: what folds back falls above the band.
    const half = this.every === 1 ? 0 : 4 * this.every;
    this.taps =
      this.every === 1 ? Float32Array.of(1) : lowPass(0.5 / this.every, 2 * half + 1).slice(0, half + 1);
    this.line = new Float32Array(2 * half);
  }

  /** Into out, which holds samples/every + 1; returns how many. */
  push(samples: Float32Array, out: Float32Array): number {
    const { taps, every } = this;
    const half = taps.length - 1;
    const kept = 2 * half;
    if (this.line.length < kept + samples.length) {
      const longer = new Float32Array(kept + samples.length);
      longer.set(this.line.subarray(0, kept));
      this.line = longer;
    }
    const { line } = this;
    line.set(samples, kept);
    let count = 0;
    let from = this.skip;
    for (; from < samples.length; from += every) {
      const last = from + kept;
      let sum = (taps[half] as number) * (line[from + half] as number);
      for (let tap = 0; tap < half; tap++)
        sum += (taps[tap] as number) * ((line[from + tap] as number) + (line[last - tap] as number));
      out[count++] = sum;
    }
    this.skip = from - samples.length;
    line.copyWithin(0, samples.length, samples.length + kept);
    return count;
  }
}

/** Beyond twelve decibels over full scale is no sound: sums of it would drown what comes after. */
const LOUDEST = 4;

/** Into out, which is as long: not a number and infinities are silence, what is far too loud is held. */
export function clean(samples: Float32Array, out: Float32Array): void {
  for (let i = 0; i < samples.length; i++) {
    const sample = samples[i] as number;
    out[i] = sample - sample !== 0 ? 0 : sample > LOUDEST ? LOUDEST : sample < -LOUDEST ? -LOUDEST : sample;
  }
}

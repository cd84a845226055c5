import type { Tones } from './tones.js';

/** Looked up once: the sample loops call them a million times a second. */
const { cos, sin, floor } = Math;

/**
 * The sound multiplied with each tone and summed up, so that the correlation over any stretch is a difference of two sums,
 * at fractions of a sample too. A ring: the last `length` samples can be asked for.
 */
export class ToneSums {
  /** How many samples have come. */
  taken = 0;
  private readonly sums: readonly [Float64Array, Float64Array, Float64Array, Float64Array];
  private readonly mask: number;
  private readonly angles: [mark: number, space: number] = [0, 0];
  private readonly steps: readonly [mark: number, space: number];

  /** length: a power of two. */
  constructor(rateHz: number, { markHz, spaceHz }: Tones, length: number) {
    this.mask = length - 1;
    const ring = (): Float64Array => new Float64Array(length);
    this.sums = [ring(), ring(), ring(), ring()];
    this.steps = [(2 * Math.PI * markHz) / rateHz, (2 * Math.PI * spaceHz) / rateHz];
  }

  push(samples: Float32Array, count: number): void {
    const [markRe, markIm, spaceRe, spaceIm] = this.sums;
    const [markStep, spaceStep] = this.steps;
    let [markAngle, spaceAngle] = this.angles;
    const { mask } = this;
    for (let i = 0; i < count; i++) {
      const before = this.taken & mask;
      const at = ++this.taken & mask;
      const sample = samples[i] as number;
      markRe[at] = (markRe[before] as number) + sample * cos(markAngle);
      markIm[at] = (markIm[before] as number) - sample * sin(markAngle);
      spaceRe[at] = (spaceRe[before] as number) + sample * cos(spaceAngle);
      spaceIm[at] = (spaceIm[before] as number) - sample * sin(spaceAngle);
      markAngle += markStep;
      spaceAngle += spaceStep;
      if (markAngle > Math.PI) markAngle -= 2 * Math.PI;
      if (spaceAngle > Math.PI) spaceAngle -= 2 * Math.PI;
    }
    this.angles[0] = markAngle;
    this.angles[1] = spaceAngle;
  }

  /**
   * Amplitude and phase of each tone from one place to another, in samples, into out: mark re, im, space re, im. A sine of
   * amplitude 1 gives 1; the phase is that at the beginning of the stretch.
   */
  between(from: number, to: number, out: Float64Array): void {
    const scale = 2 / (to - from);
    for (let tone = 0; tone < 2; tone++) {
      const re = (this.at(2 * tone, to) - this.at(2 * tone, from)) * scale;
      const im = (this.at(2 * tone + 1, to) - this.at(2 * tone + 1, from)) * scale;
      // The tones are counted from sample 0: turned to the beginning of the stretch. Sample n covers n to n + 1.
      const angle = (this.steps[tone] as number) * (from - 0.5);
      const [c, d] = [cos(angle), sin(angle)];
      out[2 * tone] = re * c - im * d;
      out[2 * tone + 1] = re * d + im * c;
    }
  }

  private at(which: number, place: number): number {
    const sums = this.sums[which] as Float64Array;
    const whole = floor(place);
    const share = place - whole;
    const low = sums[whole & this.mask] as number;
    return share === 0 ? low : low + share * ((sums[(whole + 1) & this.mask] as number) - low);
  }
}

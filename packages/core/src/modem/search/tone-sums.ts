import type { Tones } from '../tones.js';

/** Looked up once: the sample loops call them a million times a second. */
const { cos, sin, floor } = Math;

/**
 * The sound multiplied with each tone and summed up, so that the correlation over any stretch is a difference of two sums,
 * at fractions of a sample too. A ring: the last `length` samples can be asked for.
 */
export class ToneSums {
  /** How many samples have come. */
  taken = 0;
  /** Mark re, im, space re, im of each sample. */
  private readonly sums: Float64Array;
  private readonly mask: number;
  private readonly steps: readonly [mark: number, space: number];
  /** Both oscillators: cosine and sine of mark, of space. */
  private readonly oscillators = Float64Array.of(1, 0, 1, 0);
  private readonly turns: readonly [number, number, number, number];

  /** length: a power of two. */
  constructor(rateHz: number, { markHz, spaceHz }: Tones, length: number) {
    this.mask = length - 1;
    this.sums = new Float64Array(4 * length);
    this.steps = [(2 * Math.PI * markHz) / rateHz, (2 * Math.PI * spaceHz) / rateHz];
    const [mark, space] = this.steps;
    this.turns = [cos(mark), sin(mark), cos(space), sin(space)];
  }

  push(samples: Float32Array, count: number): void {
    const { sums, mask, oscillators } = this;
    const [markC, markS, spaceC, spaceS] = this.turns;
    let [a, b, c, d] = oscillators as unknown as [number, number, number, number];
    let at = 4 * (this.taken & mask);
    let markRe = sums[at] as number;
    let markIm = sums[at + 1] as number;
    let spaceRe = sums[at + 2] as number;
    let spaceIm = sums[at + 3] as number;
    const end = 4 * mask;
    for (let i = 0; i < count; i++) {
      at = at === end ? 0 : at + 4;
      const sample = samples[i] as number;
      sums[at] = markRe += sample * a;
      sums[at + 1] = markIm -= sample * b;
      sums[at + 2] = spaceRe += sample * c;
      sums[at + 3] = spaceIm -= sample * d;
      const x = a * markC - b * markS;
      b = b * markC + a * markS;
      a = x;
      const y = c * spaceC - d * spaceS;
      d = d * spaceC + c * spaceS;
      c = y;
    }
    this.taken += count;
    // What rounding did to their amplitude is made good.
    const mark = (3 - a * a - b * b) / 2;
    const space = (3 - c * c - d * d) / 2;
    oscillators.set([a * mark, b * mark, c * space, d * space]);
  }

  /**
   * Amplitude and phase of each tone from one place to another, in samples, into out: mark re, im, space re, im. A sine of
   * amplitude 1 gives 1; the phase is that at the beginning of the stretch.
   */
  between(from: number, to: number, out: Float64Array): void {
    this.at(from, this.first);
    this.at(to, this.last);
    const scale = 2 / (to - from);
    for (let tone = 0; tone < 4; tone += 2) {
      const re = ((this.last[tone] as number) - (this.first[tone] as number)) * scale;
      const im = ((this.last[tone + 1] as number) - (this.first[tone + 1] as number)) * scale;
      // The tones are counted from sample 0: turned to the beginning of the stretch. Sample n covers n to n + 1.
      const angle = (this.steps[tone >> 1] as number) * (from - 0.5);
      const [c, d] = [cos(angle), sin(angle)];
      out[tone] = re * c - im * d;
      out[tone + 1] = re * d + im * c;
    }
  }

  private readonly first = new Float64Array(4);
  private readonly last = new Float64Array(4);

  /** The sums up to a place, into out from an index on. */
  at(place: number, out: Float64Array, into = 0): void {
    const { sums, mask } = this;
    const whole = floor(place);
    const share = place - whole;
    const low = 4 * (whole & mask);
    const high = 4 * ((whole + 1) & mask);
    for (let i = 0; i < 4; i++) {
      const base = sums[low + i] as number;
      out[into + i] = share === 0 ? base : base + share * ((sums[high + i] as number) - base);
    }
  }
}

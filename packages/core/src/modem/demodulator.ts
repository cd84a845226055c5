import { Decimator, decimationOf } from './band.js';
import { Envelopes } from './envelopes.js';
import { SequenceDetector, type Found } from './sequence.js';
import { Slicer } from './slicer.js';
import { BELL_202, HIGHEST_RATE_HZ, LOWEST_RATE_HZ, type Tones } from './tones.js';

/**
 * light: one slicer. wide: nine, from space 12 dB weaker than mark to 12 dB stronger. default: sequence detection, which reads
 * what is four decibels weaker, a quarter of a second later.
 */
export const DECODERS = ['light', 'wide', 'default'] as const;
export type DecoderName = (typeof DECODERS)[number];

/** atMs: since the first sample. levelDbfs: RMS about the frame's end, a full-scale sine is 0 (AES17). twistDb: space over mark. */
export interface DemodulatedFrame {
  readonly atMs: number;
  readonly raw: Uint8Array;
  readonly levelDbfs: number;
  readonly twistDb: number;
  /** Choices of the search that were turned round until the FCS was good: 0 to 2. */
  readonly repairs: number;
}

const GAINS_DB: Readonly<Record<Exclude<DecoderName, 'default'>, readonly number[]>> = {
  light: [0],
  wide: [-12, -9, -6, -3, 0, 3, 6, 9, 12],
};
/** The same frame from two slicers within this time is one frame: they differ by a bit or so. */
const SAME_WITHIN_MS = 40;
/** Levels are averaged over about so many bits. */
const AVERAGED_BITS = 64;
/** Levels are kept so long: the sequence detector knows a frame 300 bits after its end. */
const KEPT_BITS = 600;
const BLOCK = 4096;

/** Finds frames in sound of the working rate; tells where each ended, in samples since the first. */
interface Detector {
  push(samples: Float32Array, count: number, found: Found, envelopes: Envelopes): void;
}

/** Sound in, frames out: blocks of any length, at any rate; what comes out does not depend on how the sound is cut. */
export class Demodulator {
  private readonly decimator: Decimator;
  private readonly detector: Detector;
  private readonly envelopes: Envelopes;
  private readonly low: Float32Array;
  private readonly levels: Levels;
  private found: { readonly end: number; readonly raw: Uint8Array; readonly repairs: number }[] = [];
  private recent: { readonly end: number; readonly raw: Uint8Array }[] = [];
  private readonly sameWithin: number;

  constructor(rateHz: number, decoder: DecoderName = 'default', tones: Tones = BELL_202) {
    if (!(rateHz >= LOWEST_RATE_HZ && rateHz <= HIGHEST_RATE_HZ))
      throw new RangeError(`a sample rate is ${LOWEST_RATE_HZ} to ${HIGHEST_RATE_HZ} Hz`);
    this.decimator = new Decimator(rateHz);
    const low = this.decimator.rateHz;
    this.detector =
      decoder === 'default'
        ? new SequenceDetector(low, tones)
        : new Slicers(low / tones.baud, GAINS_DB[decoder]);
    this.envelopes = new Envelopes(low, tones);
    this.low = new Float32Array(Math.ceil(BLOCK / decimationOf(rateHz)) + 1);
    this.levels = new Levels(low, tones);
    this.sameWithin = (SAME_WITHIN_MS * low) / 1000;
  }

  push(samples: Float32Array): DemodulatedFrame[] {
    const frames: DemodulatedFrame[] = [];
    for (let at = 0; at < samples.length; at += BLOCK) this.block(samples.subarray(at, at + BLOCK), frames);
    return frames;
  }

  private block(samples: Float32Array, frames: DemodulatedFrame[]): void {
    const count = this.decimator.push(samples, this.low);
    this.envelopes.push(this.low, count);
    this.levels.push(this.low, count, this.envelopes);
    this.detector.push(
      this.low,
      count,
      (raw, end, repairs) => this.found.push({ raw, end, repairs }),
      this.envelopes,
    );
    if (this.found.length > 0) this.report(frames);
  }

  /** In the order of their ends, each once. */
  private report(frames: DemodulatedFrame[]): void {
    for (const one of this.found.sort((a, b) => a.end - b.end)) {
      const { raw, end, repairs } = one;
      this.recent = this.recent.filter((other) => end - other.end <= this.sameWithin);
      if (this.recent.some((other) => isSame(other.raw, raw))) continue;
      this.recent.push(one);
      frames.push({
        atMs: (1000 * end) / this.decimator.rateHz,
        raw,
        repairs,
        ...this.levels.at(Math.floor(end)),
      });
    }
    this.found = [];
  }
}

/** Several slicers on the same envelopes. */
class Slicers implements Detector {
  private readonly slicers: readonly Slicer[];
  private taken = 0;

  constructor(samplesPerBit: number, gainsDb: readonly number[]) {
    this.slicers = gainsDb.map((db) => new Slicer(samplesPerBit, 10 ** (-db / 20)));
  }

  push(_samples: Float32Array, count: number, found: Found, { mark, space }: Envelopes): void {
    for (const slicer of this.slicers)
      slicer.push(mark, space, count, (raw, at) => found(raw, this.taken + at + 1, 0));
    this.taken += count;
  }
}

/** Running averages of the last half second: power of the band, and of each tone where it is the stronger one. */
class Levels {
  private readonly forget: number;
  private readonly mask: number;
  private readonly power: Float64Array;
  private readonly mark: Float64Array;
  private readonly space: Float64Array;
  private taken = 0;

  constructor(rateHz: number, tones: Tones) {
    this.forget = tones.baud / rateHz / AVERAGED_BITS;
    const length = 2 ** Math.ceil(Math.log2((KEPT_BITS * rateHz) / tones.baud + BLOCK));
    this.mask = length - 1;
    this.power = new Float64Array(length);
    this.mark = new Float64Array(length);
    this.space = new Float64Array(length);
  }

  push(low: Float32Array, count: number, { mark: marks, space: spaces }: Envelopes): void {
    const { forget, mask, power, mark, space } = this;
    for (let i = 0; i < count; i++) {
      const before = this.taken & mask;
      const at = ++this.taken & mask;
      const sample = low[i] as number;
      const m = marks[i] as number;
      const s = spaces[i] as number;
      const markLevel = mark[before] as number;
      const spaceLevel = space[before] as number;
      power[at] = (power[before] as number) + forget * (sample * sample - (power[before] as number));
      // Compared as shares of their own levels, so that the weaker tone is seen too.
      const isMark = m * spaceLevel > s * markLevel;
      mark[at] = markLevel + (isMark ? forget * (m - markLevel) : 0);
      space[at] = spaceLevel + (isMark ? 0 : forget * (s - spaceLevel));
    }
  }

  at(place: number): Pick<DemodulatedFrame, 'levelDbfs' | 'twistDb'> {
    const at = place & this.mask;
    const twist = (this.space[at] as number) / (this.mark[at] as number);
    return {
      // A full-scale sine has the power of a half.
      levelDbfs: 10 * Math.log10(2 * (this.power[at] as number) + Number.MIN_VALUE),
      twistDb: 20 * Math.log10(twist),
    };
  }
}

function isSame(a: Uint8Array, b: Uint8Array): boolean {
  return a.length === b.length && a.every((octet, i) => octet === b[i]);
}

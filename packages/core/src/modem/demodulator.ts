import { Decimator, decimationOf } from './band.js';
import { Envelopes } from './envelopes.js';
import { Slicer } from './slicer.js';
import { BELL_202, HIGHEST_RATE_HZ, LOWEST_RATE_HZ, type Tones } from './tones.js';

/** light: one slicer. wide: nine, from space 12 dB weaker than mark to 12 dB stronger. */
export const DECODERS = ['light', 'wide'] as const;
export type DecoderName = (typeof DECODERS)[number];

/** atMs: since the first sample. levelDbfs: RMS about the frame's end, a full-scale sine is 0 (AES17). twistDb: space over mark. */
export interface DemodulatedFrame {
  readonly atMs: number;
  readonly raw: Uint8Array;
  readonly levelDbfs: number;
  readonly twistDb: number;
}

const GAINS_DB: Readonly<Record<DecoderName, readonly number[]>> = {
  light: [0],
  wide: [-12, -9, -6, -3, 0, 3, 6, 9, 12],
};
/** The same frame from two slicers within this time is one frame: they differ by a bit or so. */
const SAME_WITHIN_MS = 40;
/** Levels are averaged over about so many bits. */
const AVERAGED_BITS = 64;
const BLOCK = 4096;

/** Sound in, frames out: blocks of any length, at any rate; what comes out does not depend on how the sound is cut. */
export class Demodulator {
  private readonly decimator: Decimator;
  private readonly envelopes: Envelopes;
  private readonly slicers: readonly Slicer[];
  private readonly low: Float32Array;
  private readonly levels: Levels;
  private found: { readonly at: number; readonly raw: Uint8Array }[] = [];
  private recent: { readonly atMs: number; readonly raw: Uint8Array }[] = [];
  private taken = 0;

  constructor(rateHz: number, decoder: DecoderName = 'wide', tones: Tones = BELL_202) {
    if (!(rateHz >= LOWEST_RATE_HZ && rateHz <= HIGHEST_RATE_HZ))
      throw new RangeError(`a sample rate is ${LOWEST_RATE_HZ} to ${HIGHEST_RATE_HZ} Hz`);
    this.decimator = new Decimator(rateHz);
    const low = this.decimator.rateHz;
    this.envelopes = new Envelopes(low, tones);
    this.slicers = GAINS_DB[decoder].map((db) => new Slicer(low / tones.baud, 10 ** (-db / 20)));
    this.low = new Float32Array(Math.ceil(BLOCK / decimationOf(rateHz)) + 1);
    this.levels = new Levels(this.low.length, tones.baud / low / AVERAGED_BITS);
  }

  push(samples: Float32Array): DemodulatedFrame[] {
    const frames: DemodulatedFrame[] = [];
    for (let at = 0; at < samples.length; at += BLOCK) this.block(samples.subarray(at, at + BLOCK), frames);
    return frames;
  }

  private block(samples: Float32Array, frames: DemodulatedFrame[]): void {
    const count = this.decimator.push(samples, this.low);
    this.envelopes.push(this.low, count);
    const { mark, space } = this.envelopes;
    this.levels.push(this.low, mark, space, count);
    for (const slicer of this.slicers)
      slicer.push(mark, space, count, (raw, at) => this.found.push({ at, raw }));
    if (this.found.length > 0) this.report(frames);
    this.taken += count;
  }

  /** In the order of their ends, each once. */
  private report(frames: DemodulatedFrame[]): void {
    for (const { at, raw } of this.found.sort((a, b) => a.at - b.at)) {
      const atMs = (1000 * (this.taken + at + 1)) / this.decimator.rateHz;
      this.recent = this.recent.filter((one) => atMs - one.atMs <= SAME_WITHIN_MS);
      if (this.recent.some((one) => isSame(one.raw, raw))) continue;
      this.recent.push({ atMs, raw });
      frames.push({ atMs, raw, ...this.levels.at(at) });
    }
    this.found = [];
  }
}

/** Running averages for each sample of a block: power of the band, and each tone where it is the stronger one. */
class Levels {
  private readonly power: Float64Array;
  private readonly mark: Float64Array;
  private readonly space: Float64Array;
  private last: [power: number, mark: number, space: number] = [0, 0, 0];

  constructor(
    length: number,
    private readonly forget: number,
  ) {
    this.power = new Float64Array(length);
    this.mark = new Float64Array(length);
    this.space = new Float64Array(length);
  }

  push(low: Float32Array, mark: Float32Array, space: Float32Array, count: number): void {
    const { forget } = this;
    let [power, markLevel, spaceLevel] = this.last;
    for (let i = 0; i < count; i++) {
      const sample = low[i] as number;
      const m = mark[i] as number;
      const s = space[i] as number;
      power += forget * (sample * sample - power);
      // Compared as shares of their own levels, so that the weaker tone is seen too.
      if (m * spaceLevel > s * markLevel) markLevel += forget * (m - markLevel);
      else spaceLevel += forget * (s - spaceLevel);
      this.power[i] = power;
      this.mark[i] = markLevel;
      this.space[i] = spaceLevel;
    }
    this.last = [power, markLevel, spaceLevel];
  }

  at(i: number): Pick<DemodulatedFrame, 'levelDbfs' | 'twistDb'> {
    const twist = (this.space[i] as number) / (this.mark[i] as number);
    return {
      // A full-scale sine has the power of a half.
      levelDbfs: 10 * Math.log10(2 * (this.power[i] as number) + Number.MIN_VALUE),
      twistDb: 20 * Math.log10(twist),
    };
  }
}

function isSame(a: Uint8Array, b: Uint8Array): boolean {
  return a.length === b.length && a.every((octet, i) => octet === b[i]);
}

import { clean, Decimator } from './band.js';
import { BasebandReceiver } from './baseband/receiver.js';
import { ClickBlanker } from './click-blanker.js';
import { Emphasis } from './emphasis.js';
import { KEPT_BITS, measureFrame, type FrameMeasures } from './measuring/frame-gauge.js';
import { measureBaseband } from './measuring/baseband-gauge.js';
import { SoundPast } from './measuring/sound-past.js';
import type { Found } from './search/doubtful-framer.js';
import { SEARCH_DELAY_BITS, SequenceDetector } from './search/sequence.js';
import { ToneSlicers } from './slicing/tone-slicers.js';
import { BELL_202, checkRate, isBaseband, type Baseband, type Modulation, type Tones } from './tones.js';

/**
 * light: one slicer. wide: nine, from space 12 dB weaker than mark to 12 dB stronger. default: sequence detection on the sound as
 * it is and with de-emphasis undone, clicks of FM taken out of both; it reads what is five decibels weaker, a quarter of a second
 * later. Without tones: one slicer, five at several thresholds, five and repairs.
 */
export const DECODERS = ['light', 'wide', 'default'] as const;
export type DecoderName = (typeof DECODERS)[number];

/** atMs: since the first sample. repairs: choices that were turned round until the FCS was good, 0 to 2. */
export interface DemodulatedFrame extends Partial<FrameMeasures> {
  readonly atMs: number;
  readonly raw: Uint8Array;
  readonly repairs: number;
  readonly levelDbfs: number;
}

const GAINS_DB: Readonly<Record<Exclude<DecoderName, 'default'>, readonly number[]>> = {
  light: [0],
  wide: [-12, -9, -6, -3, 0, 3, 6, 9, 12],
};
const THRESHOLDS: Readonly<Record<DecoderName, readonly number[]>> = {
  light: [0],
  wide: [-0.4, -0.2, 0, 0.2, 0.4],
  default: [-0.4, -0.2, 0, 0.2, 0.4],
};
/** The same frame from two of them within this time is one frame: they differ by some bits. */
const SAME_WITHIN_MS = 40;
/** A repaired frame waits so long for one that needed no repair: both ends are the same, or nearly. */
const HOLD_BITS = 16;
/** In a minute of noise a thousandth of the time came to 0.37 and 0.31; signals of which half can be read to 0.8 and 0.65. */
const SLICER_CARRIER = 0.5;
const SEARCH_CARRIER = 0.4;
const BLOCK = 4096;

/** One way from sound to frames, at a rate of its own. */
interface Branch {
  /** Of what `found` is told in. */
  readonly rateHz: number;
  /** Frames are known so many bits after their end. */
  readonly lateBits: number;
  push(samples: Float32Array, found: Found): void;
  /** 1 for a clean signal, about 0 for noise. */
  readonly steadiness: number;
  /** Noise stays below. */
  readonly carrierAbove: number;
  measure(end: number, raw: Uint8Array): Partial<FrameMeasures> & Pick<FrameMeasures, 'levelDbfs'>;
}

interface Candidate {
  /** In milliseconds since the first sample. */
  readonly atMs: number;
  readonly end: number;
  readonly raw: Uint8Array;
  readonly repairs: number;
}

/** Sound in, frames out: blocks of any length, at any rate; what comes out does not depend on how the sound is cut. */
export class Demodulator {
  private readonly branches: readonly Branch[];
  private readonly main: Branch;
  private readonly cleaned = new Float32Array(BLOCK);
  private waiting: Candidate[] = [];
  private recent: Candidate[] = [];
  private readonly msPerBit: number;
  private taken = 0;

  constructor(
    private readonly rateHz: number,
    decoder: DecoderName = 'default',
    modulation: Modulation = BELL_202,
  ) {
    checkRate(rateHz, modulation);
    this.msPerBit = 1000 / modulation.baud;
    this.branches = branchesOf(rateHz, decoder, modulation);
    this.main = this.branches[0] as Branch;
  }

  push(samples: Float32Array): DemodulatedFrame[] {
    const frames: DemodulatedFrame[] = [];
    for (let at = 0; at < samples.length; at += BLOCK) this.block(samples.subarray(at, at + BLOCK), frames);
    return frames;
  }

  /** How surely a signal is there now: 1 clean, about 0 noise. */
  get carrier(): number {
    return this.main.steadiness;
  }

  /** Data carrier detect: a signal of which frames may be read. */
  get hasCarrier(): boolean {
    return this.carrier > this.main.carrierAbove;
  }

  private block(samples: Float32Array, frames: DemodulatedFrame[]): void {
    const cleaned = this.cleaned.subarray(0, samples.length);
    clean(samples, cleaned);
    this.taken += samples.length;
    for (const branch of this.branches)
      branch.push(cleaned, (raw, end, repairs) =>
        this.waiting.push({ raw, end, repairs, atMs: (1000 * end) / branch.rateHz }),
      );
    if (this.waiting.length > 0) this.report(frames);
  }

  /** In the order of their ends, each once; of two that end together the one without repair. */
  private report(frames: DemodulatedFrame[]): void {
    const nowMs = (1000 * this.taken) / this.rateHz;
    const holdMs = HOLD_BITS * this.msPerBit;
    const all = this.waiting.sort((a, b) => a.atMs - b.atMs);
    this.waiting = [];
    for (const one of all) {
      const { atMs, raw, repairs, end } = one;
      const isHeld = repairs > 0 && nowMs < atMs + this.main.lateBits * this.msPerBit + holdMs;
      const isBeaten = (other: Candidate): boolean =>
        other !== one &&
        Math.abs(other.atMs - atMs) < holdMs &&
        (other.repairs < repairs || (other.repairs === repairs && this.recent.includes(other)));
      this.recent = this.recent.filter((other) => atMs - other.atMs <= SAME_WITHIN_MS);
      if (this.recent.some((other) => isSame(other.raw, raw))) continue;
      if (repairs > 0 && [...all, ...this.recent].some(isBeaten)) continue;
      if (isHeld) {
        this.waiting.push(one);
        continue;
      }
      this.recent.push(one);
      frames.push({ atMs, raw, repairs, ...this.main.measure(end, raw) });
    }
  }
}

function branchesOf(rateHz: number, decoder: DecoderName, modulation: Modulation): readonly Branch[] {
  if (isBaseband(modulation)) return [new BasebandBranch(rateHz, decoder, modulation)];
  if (decoder !== 'default') return [new SlicerBranch(rateHz, modulation, GAINS_DB[decoder])];
  return [
    new SearchBranch(rateHz, modulation, { blanks: false, undoes: false }),
    new SearchBranch(rateHz, modulation, { blanks: true, undoes: false }),
    new SearchBranch(rateHz, modulation, { blanks: true, undoes: true }),
  ];
}

/** What the branches with tones share: the lower rate, and the sound for measuring. */
class LowRate {
  readonly rateHz: number;
  private readonly decimator: Decimator;
  private readonly past: SoundPast;
  readonly low: Float32Array;

  constructor(
    rateHz: number,
    private readonly tones: Tones,
  ) {
    this.decimator = new Decimator(rateHz);
    this.rateHz = this.decimator.rateHz;
    this.past = new SoundPast((KEPT_BITS * this.rateHz) / tones.baud);
    this.low = new Float32Array(BLOCK + 1);
  }

  /** Returns how many samples `low` holds now. */
  push(samples: Float32Array): number {
    const count = this.decimator.push(samples, this.low);
    this.past.push(this.low, count);
    return count;
  }

  measure(end: number, raw: Uint8Array): FrameMeasures {
    return measureFrame(this.past, end, raw, this.tones, this.rateHz);
  }
}

class SlicerBranch implements Branch {
  readonly lateBits = 1;
  readonly carrierAbove = SLICER_CARRIER;
  readonly rateHz: number;
  private readonly lowRate: LowRate;
  private readonly slicers: ToneSlicers;

  constructor(rateHz: number, tones: Tones, gainsDb: readonly number[]) {
    this.lowRate = new LowRate(rateHz, tones);
    this.rateHz = this.lowRate.rateHz;
    this.slicers = new ToneSlicers(this.rateHz, tones, gainsDb);
  }

  push(samples: Float32Array, found: Found): void {
    this.slicers.push(this.lowRate.low, this.lowRate.push(samples), found);
  }

  get steadiness(): number {
    return this.slicers.steadiness;
  }

  measure(end: number, raw: Uint8Array): FrameMeasures {
    return this.lowRate.measure(end, raw);
  }
}

class SearchBranch implements Branch {
  readonly lateBits = SEARCH_DELAY_BITS;
  readonly carrierAbove = SEARCH_CARRIER;
  readonly rateHz: number;
  private readonly emphasis: Emphasis | undefined;
  private readonly blanker: ClickBlanker | undefined;
  private readonly lowRate: LowRate;
  private readonly detector: SequenceDetector;
  private readonly sound = new Float32Array(BLOCK);

  constructor(
    rateHz: number,
    tones: Tones,
    { blanks, undoes }: { readonly blanks: boolean; readonly undoes: boolean },
  ) {
    this.emphasis = undoes ? new Emphasis(rateHz, 'pre') : undefined;
    this.blanker = blanks ? new ClickBlanker(rateHz) : undefined;
    this.lowRate = new LowRate(rateHz, tones);
    this.rateHz = this.lowRate.rateHz;
    this.detector = new SequenceDetector(this.rateHz, tones);
  }

  push(samples: Float32Array, found: Found): void {
    const sound = this.sound.subarray(0, samples.length);
    this.emphasis?.push(samples, sound);
    this.blanker?.push(this.emphasis ? sound : samples, sound);
    const count = this.lowRate.push(this.emphasis || this.blanker ? sound : samples);
    this.detector.push(this.lowRate.low, count, found);
  }

  get steadiness(): number {
    return this.detector.steadiness;
  }

  measure(end: number, raw: Uint8Array): FrameMeasures {
    return this.lowRate.measure(end, raw);
  }
}

class BasebandBranch implements Branch {
  readonly lateBits = 1;
  readonly carrierAbove = SLICER_CARRIER;
  private readonly receiver: BasebandReceiver;
  private readonly past: SoundPast;

  constructor(
    readonly rateHz: number,
    decoder: DecoderName,
    private readonly modulation: Baseband,
  ) {
    this.receiver = new BasebandReceiver(rateHz, modulation, THRESHOLDS[decoder], decoder === 'default');
    this.past = new SoundPast((KEPT_BITS * rateHz) / modulation.baud);
  }

  push(samples: Float32Array, found: Found): void {
    this.past.push(samples, samples.length);
    this.receiver.push(samples, samples.length, found);
  }

  get steadiness(): number {
    return this.receiver.steadiness;
  }

  measure(end: number, raw: Uint8Array): Pick<FrameMeasures, 'levelDbfs'> {
    return measureBaseband(this.past, end, raw, this.modulation, this.rateHz);
  }
}

function isSame(a: Uint8Array, b: Uint8Array): boolean {
  return a.length === b.length && a.every((octet, i) => octet === b[i]);
}

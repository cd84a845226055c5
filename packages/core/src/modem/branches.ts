import type { HdlcDiscards } from '../hdlc/bit-stream.js';
import { Decimator } from './band.js';
import { BasebandReceiver } from './baseband/receiver.js';
import { ClickBlanker } from './click-blanker.js';
import { Emphasis } from './emphasis.js';
import type { BasebandMeasures } from './measuring/baseband-gauge.js';
import { KEPT_BITS, measureFrame, type FrameMeasures } from './measuring/frame-gauge.js';
import { SoundPast } from './measuring/sound-past.js';
import type { Found } from './search/doubtful-framer.js';
import { SEARCH_DELAY_BITS, SequenceDetector } from './search/sequence.js';
import { ToneSlicers } from './slicing/tone-slicers.js';
import { isBaseband, type Baseband, type Modulation, type Tones } from './tones.js';

/**
 * light: one slicer. wide: nine, from space 12 dB weaker than mark to 12 dB stronger. default: sequence detection in three ways
 * side by side, the sound as it is, with clicks of FM taken out, and with de-emphasis undone besides; it reads what is five decibels
 * weaker, more than a quarter of a second later. Without tones: one slicer, five at several thresholds, five and repairs.
 */
export const DECODERS = ['light', 'wide', 'default'] as const;
export type DecoderName = (typeof DECODERS)[number];

const GAINS_DB: Readonly<Record<Exclude<DecoderName, 'default'>, readonly number[]>> = {
  light: [0],
  wide: [-12, -9, -6, -3, 0, 3, 6, 9, 12],
};
const THRESHOLDS: Readonly<Record<DecoderName, readonly number[]>> = {
  light: [0],
  wide: [-0.4, -0.2, 0, 0.2, 0.4],
  default: [-0.4, -0.2, 0, 0.2, 0.4],
};
/** In a minute of noise a thousandth of the time came to 0.37 and 0.31; signals of which half can be read to 0.8 and 0.65. */
const SLICER_CARRIER = 0.5;
const SEARCH_CARRIER = 0.4;
/** Samples of one push at most. */
export const BLOCK = 4096;

/** One way from sound to frames, at a rate of its own. */
export interface Branch {
  /** That of the ends that `found` is told of. */
  readonly rateHz: number;
  /** Frames are known so many bits after their end. */
  readonly lateBits: number;
  push(samples: Float32Array, found: Found): void;
  /** 1 for a clean signal, about 0 for noise. */
  readonly steadiness: number;
  /** Noise stays below. */
  readonly carrierAbove: number;
  readonly discards: HdlcDiscards;
  measure(end: number, raw: Uint8Array): Partial<FrameMeasures> & Pick<FrameMeasures, 'levelDbfs'>;
}

/** The first one measures. */
export function branchesOf(rateHz: number, decoder: DecoderName, modulation: Modulation): readonly Branch[] {
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

  get discards(): HdlcDiscards {
    return this.slicers.discards;
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

  get discards(): HdlcDiscards {
    return this.detector.discards;
  }

  measure(end: number, raw: Uint8Array): FrameMeasures {
    return this.lowRate.measure(end, raw);
  }
}

class BasebandBranch implements Branch {
  readonly lateBits = 1;
  readonly carrierAbove = SLICER_CARRIER;
  private readonly receiver: BasebandReceiver;

  constructor(
    readonly rateHz: number,
    decoder: DecoderName,
    modulation: Baseband,
  ) {
    this.receiver = new BasebandReceiver(rateHz, modulation, THRESHOLDS[decoder], decoder === 'default');
  }

  push(samples: Float32Array, found: Found): void {
    this.receiver.push(samples, samples.length, found);
  }

  get steadiness(): number {
    return this.receiver.steadiness;
  }

  get discards(): HdlcDiscards {
    return this.receiver.discards;
  }

  measure(end: number, raw: Uint8Array): BasebandMeasures {
    return this.receiver.measure(end, raw);
  }
}

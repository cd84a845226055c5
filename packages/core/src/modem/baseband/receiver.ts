import { ScrambledLine } from '../../hdlc/line-code.js';
import { lowPass } from '../band.js';
import type { HdlcDiscards } from '../../hdlc/bit-stream.js';
import { DoubtfulFramer, type Found } from '../search/doubtful-framer.js';
import { Framer, Slicer } from '../slicing/slicer.js';
import type { Baseband } from '../tones.js';
import {
  KEPT_BASEBAND_BITS,
  measureBaseband,
  type BasebandMeasures,
  type FilteredSound,
} from '../measuring/baseband-gauge.js';
import { SoundPast } from '../measuring/sound-past.js';
import { MEAN_POWER } from './pulse.js';

/** Looked up once: the sample loops call them a million times a second. */
const { abs, ceil } = Math;

/** The slicer works on at least so many samples of each bit. */
const SAMPLES_PER_BIT = 8;
/** Half of the power is passed up to this share of the bit rate; found by trial in white noise. */
const EDGE = 0.62;
/** Length of the filter, in bits. */
const FILTER_BITS = 6;
/** Noise stays below. */
const SIGNAL_STEADINESS = 0.3;
/** Offset and amplitude are averaged over so many bits. */
const AVERAGED_BITS = 300;

/**
 * Sound to frames without tones: a low-pass that also puts samples between those that came, offset taken off, slicers at
 * several thresholds (as shares of the amplitude). With doubts, the slicer in the middle repairs.
 */
export class BasebandReceiver {
  /** Between the samples that came; each filter gives one of them. */
  private readonly filters: readonly Float32Array[];
  private readonly past: Float32Array;
  private at = 0;
  private readonly times: number;
  private readonly forget: number;
  private offset = 0;
  private amplitude = 0;
  private values = new Float32Array(0);
  private amplitudes = new Float32Array(0);
  private shifted = new Float32Array(0);
  private readonly slicers: readonly {
    readonly slicer: Slicer;
    readonly framer: Framer | DoubtfulFramer;
    readonly threshold: number;
  }[];
  private taken = 0;
  /** For measuring a frame once it is read. */
  private readonly filtered: FilteredSound;

  constructor(rateHz: number, { baud }: Baseband, thresholds: readonly number[], repairs: boolean) {
    this.times = ceil((SAMPLES_PER_BIT * baud) / rateHz);
    const length = ceil((FILTER_BITS * rateHz) / baud);
    const prototype = lowPass((EDGE * baud) / (this.times * rateHz), length * this.times);
    this.filters = Array.from({ length: this.times }, (_, phase) =>
      Float32Array.from(
        { length },
        (_, i) => this.times * (prototype[(length - 1 - i) * this.times + phase] as number),
      ),
    );
    this.past = new Float32Array(2 * length);
    const filteredHz = this.times * rateHz;
    this.filtered = {
      past: new SoundPast((KEPT_BASEBAND_BITS * filteredHz) / baud),
      rateHz: filteredHz,
      baud,
      power: MEAN_POWER,
      noiseBits: EDGE,
    };
    this.forget = baud / (AVERAGED_BITS * this.times * rateHz);
    this.slicers = thresholds.map((threshold) => ({
      slicer: new Slicer((this.times * rateHz) / baud),
      framer:
        repairs && threshold === 0
          ? new DoubtfulFramer(() => new ScrambledLine())
          : new Framer(new ScrambledLine()),
      threshold,
    }));
  }

  /** Of the slicer in the middle: each of the others meets the same frames. */
  get discards(): HdlcDiscards {
    const middle = this.slicers[this.slicers.length >> 1] as { framer: Framer | DoubtfulFramer };
    return middle.framer.discards;
  }

  /** Tells of each frame and where it ended, in samples since the first. */
  push(samples: Float32Array, count: number, found: Found): void {
    const length = count * this.times;
    if (this.values.length < length) {
      this.values = new Float32Array(length);
      this.amplitudes = new Float32Array(length);
      this.shifted = new Float32Array(length);
    }
    this.filter(samples, count);
    const { values, amplitudes, shifted, times } = this;
    this.filtered.past.push(values, length);
    for (const { slicer, framer, threshold } of this.slicers) {
      for (let i = 0; i < length; i++)
        shifted[i] = (values[i] as number) - threshold * (amplitudes[i] as number);
      slicer.push(shifted, length, (bit, margin, at) => {
        const end = this.taken + (at + 1) / times;
        if (framer instanceof DoubtfulFramer)
          framer.take(bit, margin, 1, end, slicer.steadiness > SIGNAL_STEADINESS, found);
        else {
          const frame = framer.take(bit);
          if (frame) found(frame, end, 0);
        }
      });
    }
    this.taken += count;
  }

  /** end: as it was told. */
  measure(end: number, raw: Uint8Array): BasebandMeasures {
    return measureBaseband(this.filtered, end * this.times, raw);
  }

  /** Of the slicer in the middle. */
  get steadiness(): number {
    return (this.slicers[this.slicers.length >> 1] as { slicer: Slicer }).slicer.steadiness;
  }

  private filter(samples: Float32Array, count: number): void {
    const { past, filters, values, amplitudes, forget, times } = this;
    const length = past.length / 2;
    let into = 0;
    for (let i = 0; i < count; i++) {
      const sample = samples[i] as number;
      past[this.at] = sample;
      past[this.at + length] = sample;
      this.at = this.at + 1 === length ? 0 : this.at + 1;
      for (let phase = 0; phase < times; phase++) {
        const taps = filters[phase] as Float32Array;
        let sum = 0;
        for (let tap = 0; tap < length; tap++) sum += (taps[tap] as number) * (past[this.at + tap] as number);
        this.offset += forget * (sum - this.offset);
        const value = sum - this.offset;
        this.amplitude += forget * (abs(value) - this.amplitude);
        amplitudes[into] = this.amplitude;
        values[into++] = value;
      }
    }
  }
}

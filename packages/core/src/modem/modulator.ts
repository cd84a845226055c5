import { frameBits } from '../hdlc/bit-stream.js';
import { NrziEncoder } from '../hdlc/line-code.js';
import { BELL_202, checkRate, type Modulation, type Tones } from './tones.js';

/** Looked up once: the sample loops call them a million times a second. */
const { sin } = Math;

/**
 * levelDbfs: RMS of the stronger tone; a full-scale sine is 0 dBFS (AES17). twistDb: space above mark; pre-emphasis of
 * 6 dB an octave is +5.3 dB between the tones of Bell 202.
 */
export interface ModulatorOptions {
  readonly rateHz: number;
  readonly levelDbfs: number;
  readonly tones?: Tones;
  readonly twistDb?: number;
}

/** Twist of a transmitter that pre-emphasises sound: amplitude in proportion to frequency. */
export const preEmphasisDb = ({ markHz, spaceHz }: Tones): number => 20 * Math.log10(spaceHz / markHz);

/** What goes on the air in one transmission: flags for TXDELAY, frames with one flag between, flags for the tail. */
export function transmissionBits(
  frames: readonly Uint8Array[],
  { baud }: Pick<Modulation, 'baud'>,
  { txDelayMs, txTailMs }: { readonly txDelayMs: number; readonly txTailMs: number },
): Uint8Array {
  const flags = (ms: number): number => Math.max(1, Math.ceil((ms / 1000) * (baud / 8)));
  const parts = frames.map((frame, i) => {
    const isLast = i === frames.length - 1;
    // The flag that ends a frame begins the next.
    const bits = frameBits(frame, i === 0 ? flags(txDelayMs) : 1, isLast ? flags(txTailMs) : 1);
    return isLast ? bits : bits.subarray(0, -8);
  });
  const all = new Uint8Array(parts.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const part of parts) {
    all.set(part, at);
    at += part.length;
  }
  return all;
}

/**
 * Phase-continuous tones for bits before NRZI. The bit clock is exact at any rate: within a sample in which a bit ends, the
 * phase advances by the share of each tone. State is kept between calls, so that bits may come in any pieces.
 */
export class AfskModulator {
  private readonly nrzi = new NrziEncoder();
  private readonly stepOf: readonly [space: number, mark: number];
  private readonly amplitudeOf: readonly [space: number, mark: number];
  private readonly samplesPerBit: number;
  private phase = 0;
  /** Samples until the present bit ends, counted from the next sample. */
  private left = 0;
  private level = 0;

  constructor({ rateHz, levelDbfs, tones = BELL_202, twistDb = 0 }: ModulatorOptions) {
    checkRate(rateHz, tones);
    const { markHz, spaceHz, baud } = tones;
    const loudest = 10 ** (levelDbfs / 20);
    this.samplesPerBit = rateHz / baud;
    this.stepOf = [(2 * Math.PI * spaceHz) / rateHz, (2 * Math.PI * markHz) / rateHz];
    this.amplitudeOf = [
      loudest * 10 ** (Math.min(0, twistDb) / 20),
      loudest * 10 ** (Math.min(0, -twistDb) / 20),
    ];
  }

  /** The samples that these bits fill; what is left of the last sample belongs to the next call. */
  push(bits: Uint8Array): Float32Array {
    const levels = this.nrzi.push(bits);
    const samples = new Float32Array(Math.ceil(levels.length * this.samplesPerBit) + 1);
    let count = 0;
    for (let i = 0; i < levels.length; i++) {
      const level = levels[i] as 0 | 1;
      // The sample in which the bit before ended is finished with this bit's tone.
      this.phase += (this.stepOf[level] - this.stepOf[this.level as 0 | 1]) * -Math.min(0, this.left);
      this.level = level;
      this.left += this.samplesPerBit;
      for (; this.left > 0; this.left--) {
        samples[count++] = this.amplitudeOf[level] * sin(this.phase);
        this.phase += this.stepOf[level];
        if (this.phase > 2 * Math.PI) this.phase -= 2 * Math.PI;
      }
    }
    return samples.subarray(0, count);
  }
}

/** A steady tone for the other channel, which holds PTT; well above the voice band, so that receivers do not pass it. */
export function keyingTone(hz: number, samples: number, rateHz: number, levelDbfs: number): Float32Array {
  if (!(hz > 0 && hz < rateHz / 2)) throw new RangeError('a tone lies below half the sample rate');
  const amplitude = 10 ** (levelDbfs / 20);
  return Float32Array.from({ length: samples }, (_, i) => amplitude * sin((2 * Math.PI * hz * i) / rateHz));
}

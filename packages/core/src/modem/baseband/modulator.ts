import { NrziEncoder, Scrambler } from '../../hdlc/line-code.js';
import { checkRate, SCRAMBLED_9600, type Baseband } from '../tones.js';
import { MEAN_POWER, PULSE_REACH, raisedCosine } from './pulse.js';

/** Places of the pulse in the table, for each bit. */
const TABLE = 1024;
const PULSE = Float64Array.from({ length: 2 * PULSE_REACH * TABLE + 1 }, (_, i) =>
  raisedCosine(i / TABLE - PULSE_REACH),
);
/**
 * Bits before NRZI to sound, by NRZI, scrambler and pulse. The bit clock is exact at any rate: each sample is the sum of the
 * pulses at its own moment. State is kept between calls, so that bits may come in any pieces; the sound is PULSE_REACH bits
 * late. levelDbfs: RMS, a full-scale sine is 0 dBFS (AES17).
 */
export class BasebandModulator {
  private readonly nrzi = new NrziEncoder();
  private readonly scrambler = new Scrambler();
  private readonly amplitude: number;
  private readonly step: number;
  /** The last levels, ±1; the newest last. */
  private readonly levels = new Float64Array(2 * PULSE_REACH + 1);
  /** Samples until the next bit, counted from the next sample. */
  private left = 0;

  constructor({
    rateHz,
    levelDbfs,
    modulation = SCRAMBLED_9600,
  }: {
    readonly rateHz: number;
    readonly levelDbfs: number;
    readonly modulation?: Baseband;
  }) {
    checkRate(rateHz, modulation);
    this.step = modulation.baud / rateHz;
    this.amplitude = 10 ** (levelDbfs / 20) / Math.sqrt(2 * MEAN_POWER);
  }

  push(bits: Uint8Array): Float32Array {
    const levels = this.scrambler.push(this.nrzi.push(bits));
    const samples = new Float32Array(Math.ceil(levels.length / this.step) + 1);
    let count = 0;
    for (let i = 0; i < levels.length; i++) {
      this.levels.copyWithin(0, 1);
      this.levels[2 * PULSE_REACH] = levels[i] ? 1 : -1;
      this.left += 1 / this.step;
      for (; this.left > 0; this.left--)
        samples[count++] = this.amplitude * this.at(1 - this.left * this.step);
    }
    return samples.subarray(0, count);
  }

  /** The sum of the pulses so far after the bit in the middle, in bits: 0 to 1. */
  private at(share: number): number {
    let sum = 0;
    for (let i = 0; i < this.levels.length; i++) {
      const place = (share - (i - PULSE_REACH) + PULSE_REACH) * TABLE;
      const whole = Math.floor(place);
      if (whole < 0 || whole >= PULSE.length - 1) continue;
      const low = PULSE[whole] as number;
      sum += (this.levels[i] as number) * (low + (place - whole) * ((PULSE[whole + 1] as number) - low));
    }
    return sum;
  }
}

import { frameBits } from '../../hdlc/bit-stream.js';
import { ScrambledLine } from '../../hdlc/line-code.js';
import type { FrameMeasures } from './frame-gauge.js';
import { rmsDbfs } from './level.js';
import type { SoundPast } from './sound-past.js';

/** Looked up once: called for each bit. */
const { abs, floor, log10, max, min } = Math;

/** Bits from which a place of the clock is told, and the steps in which it is looked for. */
const CLOCK_BITS = 160;
const STEP = 1 / 32;
const MOST_PREAMBLE_BITS = 9600;
const FLAG = [0, 1, 1, 1, 1, 1, 1, 0];
/** A wrong bit of the line makes up to six wrong ones behind the descrambler: a flag may have so many. */
const MOST_WRONG = 2;
/** The filter of the receiver leaves neighbours a little in each other: cleaner cannot be told from clean. */
const MOST_EBN0_DB = 18;
/** So many bits of sound must be kept: the longest frame and its preamble. */
export const KEPT_BASEBAND_BITS = MOST_PREAMBLE_BITS + 4096;

export type BasebandMeasures = Pick<FrameMeasures, 'levelDbfs' | 'baudErrorPpm' | 'preambleMs' | 'ebN0Db'>;

/** What the receiver has made of the sound. power: mean square of ±1 behind its filter; noiseBits: its noise bandwidth over the bit rate. */
export interface FilteredSound {
  readonly past: SoundPast;
  readonly rateHz: number;
  readonly baud: number;
  readonly power: number;
  readonly noiseBits: number;
}

/** end: where the last bit of the closing flag was decided, in samples of the filtered sound. */
export function measureBaseband(sound: FilteredSound, end: number, raw: Uint8Array): BasebandMeasures {
  const count = frameBits(raw, 1, 1).length;
  const spb = sound.rateHz / sound.baud;
  const bits = new BitCentres(sound.past, spb);
  const last = end - 1;
  const part = min(CLOCK_BITS, count);
  const atEnd = last + bits.bestShift(last - (part - 1) * spb, part);
  const first = atEnd - (count - 1) * spb;
  const atStart = first + bits.bestShift(first, part);
  // The middles of the two parts lie so many bits apart.
  const slip = count > 2 * part ? (first - atStart) / (count - part) / spb : 0;
  const samples = bits.take(atStart, spb * (1 + slip), count);
  const height = samples.reduce((sum, one) => sum + abs(one), 0) / count;
  const noise = samples.reduce((sum, one) => sum + (abs(one) - height) ** 2, 0) / count;
  return {
    levelDbfs: rmsDbfs(height * height * sound.power),
    baudErrorPpm: -slip * 1e6,
    preambleMs: (1000 * preambleBits(bits, atStart, spb * (1 + slip))) / sound.baud,
    // Eb is the power of a bit's length; the noise of one sample is N0 times the bandwidth of the filter.
    ebN0Db: min(
      MOST_EBN0_DB,
      10 * log10((height * height * sound.power * sound.noiseBits) / (noise + Number.MIN_VALUE)),
    ),
  };
}

/** Flags before the frame and the one that begins it; first: the middle of that flag's first bit. */
function preambleBits(bits: BitCentres, first: number, spb: number): number {
  const line = new ScrambledLine();
  const before = MOST_PREAMBLE_BITS + line.history;
  const read = [...bits.take(first - before * spb, spb, before)].map((level) => line.bit(level > 0 ? 1 : 0));
  let heard = 8;
  for (let at = read.length - 8; at >= line.history; at -= 8, heard += 8)
    if (FLAG.filter((bit, i) => bit !== read[at + i]).length > MOST_WRONG) break;
  return heard;
}

class BitCentres {
  constructor(
    private readonly past: SoundPast,
    private readonly spb: number,
  ) {}

  /** The sound at so many places, one step apart. */
  take(from: number, step: number, count: number): Float32Array {
    const whole = floor(from);
    const sound = this.past.slice(whole, whole + Math.ceil(count * step) + 2);
    return Float32Array.from({ length: count }, (_, i) => {
      const place = from - whole + i * step;
      const low = sound[floor(place)] as number;
      return low + (place - floor(place)) * ((sound[floor(place) + 1] as number) - low);
    });
  }

  /** By how much the middles of bits lie beside the place, in samples: where the levels stand furthest from zero. */
  bestShift(from: number, count: number): number {
    const shifts = Array.from({ length: 1 / STEP + 1 }, (_, i) => (i * STEP - 0.5) * this.spb);
    const scores = shifts.map((shift) =>
      this.take(from + shift, this.spb, count).reduce((sum, one) => sum + abs(one), 0),
    );
    const best = scores.indexOf(max(...scores));
    const [left, top, right] = [scores[best - 1], scores[best] as number, scores[best + 1]];
    const bend = left === undefined || right === undefined ? 0 : left - 2 * top + right;
    const aside = bend < 0 ? ((left as number) - (right as number)) / (2 * bend) : 0;
    return (shifts[best] as number) + aside * STEP * this.spb;
  }
}

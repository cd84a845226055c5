import { frameBits } from '../../hdlc/bit-stream.js';
import { NrziEncoder } from '../../hdlc/line-code.js';
import { ToneSums } from '../search/tone-sums.js';
import type { Tones } from '../tones.js';
import { meanPower, rmsDbfs } from './level.js';
import type { SoundPast } from './sound-past.js';

/** Looked up once: called for each bit. */
const { abs, atan2, ceil, cos, sin, floor, hypot, log10, max, min, round } = Math;

/**
 * How a frame sounded. Levels: RMS, a full-scale sine is 0 dBFS (AES17). twistDb: space over mark. Errors of the tones in Hz and
 * of the bit rate in millionths, above what they should be. preambleMs: flags (or zeros) heard before the frame. ebN0Db: energy
 * of a bit over the density of the noise; 40 is "too clean to tell".
 */
export interface FrameMeasures {
  readonly levelDbfs: number;
  readonly markDbfs: number;
  readonly spaceDbfs: number;
  readonly twistDb: number;
  readonly markErrorHz: number;
  readonly spaceErrorHz: number;
  readonly baudErrorPpm: number;
  readonly preambleMs: number;
  readonly ebN0Db: number;
}

/** The end that a decoder tells may be so many bits beside the true one. */
const END_MAY_ERR_BITS = 1.5;
/** Steps of the search for it, in bits. */
const STEP = 0.125;
/** Bits from which a place of the clock is told. */
const CLOCK_BITS = 160;
const MOST_PREAMBLE_MS = 1000;
/** Eight bits are a flag, or zeros, where their tones are so much stronger than the others. */
const HEARD_OVER_OTHER = 2;
const MOST_EBN0_DB = 40;

/** So much sound must be kept: the longest frame, its preamble, and what the decoder is late. */
export const KEPT_BITS = 4096;

/**
 * Measures against what is known to have been sent: the bits of the frame tell which tone was on at each moment. end: where the
 * closing flag ended, in samples.
 */
export function measureFrame(
  past: SoundPast,
  end: number,
  raw: Uint8Array,
  tones: Tones,
  rateHz: number,
): FrameMeasures {
  const levels = new NrziEncoder().push(frameBits(raw, 1, 1));
  const spb = rateHz / tones.baud;
  const before = ceil((MOST_PREAMBLE_MS / 1000) * tones.baud) + 4;
  const start = floor(end - (levels.length + before) * spb);
  const sound = past.slice(start, ceil(end + 4 * spb));
  const sums = new ToneSums(rateHz, tones, 2 ** ceil(Math.log2(sound.length + 2)));
  sums.push(sound, sound.length);
  const known = new KnownTones(sums, levels, spb, tones);

  const atEnd = known.bestPlace(
    end - start - levels.length * spb,
    max(0, levels.length - CLOCK_BITS),
    END_MAY_ERR_BITS,
  );
  const { isInverted } = known;
  const atStart = known.bestPlace(atEnd, 0, 0.5);
  known.isInverted = isInverted;
  const slip = levels.length > 2 * CLOCK_BITS ? (atEnd - atStart) / (levels.length - CLOCK_BITS) / spb : 0;
  const first = slip === 0 ? atEnd : atStart - (CLOCK_BITS / 2) * slip * spb;
  const fit = known.fit(first, spb * (1 + slip));
  const body = sound.subarray(max(0, round(first)), round(first + levels.length * spb));
  return {
    levelDbfs: rmsDbfs(meanPower(body)),
    ...fit,
    // Longer bits are a slower clock.
    baudErrorPpm: -slip * 1e6,
    preambleMs: known.preambleBits(first, spb * (1 + slip)) * (1000 / tones.baud),
  };
}

class KnownTones {
  isInverted = false;
  private readonly bit = new Float64Array(4);

  constructor(
    private readonly sums: ToneSums,
    private readonly levels: Uint8Array,
    private readonly spb: number,
    private readonly tones: Tones,
  ) {}

  /** Where the frame begins, so that the tones of CLOCK_BITS bits from one on stand out most; looked for within ± so many bits. */
  bestPlace(about: number, from: number, within: number): number {
    const to = min(this.levels.length, from + CLOCK_BITS);
    const steps = round(within / STEP);
    const scores: number[] = [];
    for (let step = -steps; step <= steps; step++) {
      const place = about + step * STEP * this.spb;
      const [as, inverted] = this.energies(place, from, to);
      scores.push(max(as, inverted));
      if (max(...scores) === scores.at(-1)) this.isInverted = inverted > as;
    }
    const best = scores.indexOf(max(...scores));
    const [left, top, right] = [scores[best - 1], scores[best], scores[best + 1]];
    const bend = left === undefined || right === undefined ? 0 : left - 2 * (top as number) + right;
    const aside = bend < 0 ? ((left as number) - (right as number)) / (2 * bend) : 0;
    return about + (best - steps + aside) * STEP * this.spb;
  }

  private energies(place: number, from: number, to: number): [as: number, inverted: number] {
    const sums: [number, number] = [0, 0];
    for (let i = from; i < to; i++) {
      this.take(place, i, this.spb);
      const [mark, space] = [this.energy(0), this.energy(2)];
      sums[0] += this.levels[i] ? mark : space;
      sums[1] += this.levels[i] ? space : mark;
    }
    return sums;
  }

  private take(place: number, i: number, spb: number): void {
    const from = place + i * spb;
    if (from < 0 || from + spb > this.sums.taken) this.bit.fill(0);
    else this.sums.between(from, from + spb, this.bit);
  }

  private energy(at: number): number {
    return (this.bit[at] as number) ** 2 + (this.bit[at + 1] as number) ** 2;
  }

  /** Levels, errors of the tones and noise, from bits whose neighbour has the same tone. */
  fit(place: number, spb: number): Omit<FrameMeasures, 'levelDbfs' | 'baudErrorPpm' | 'preambleMs'> {
    const { levels, bit, tones } = this;
    const pairs = { 0: new Pairs(), 1: new Pairs() };
    let [re, im, was] = [0, 0, -1];
    for (let i = 0; i < levels.length; i++) {
      this.take(place, i, spb);
      const isMark = ((levels[i] as number) ^ Number(this.isInverted)) as 0 | 1;
      const at = isMark ? 0 : 2;
      const turn = (2 * Math.PI * (isMark ? tones.markHz : tones.spaceHz)) / tones.baud;
      // Turned back to where the neighbour stood.
      const [x, y] = [bit[at] as number, bit[at + 1] as number];
      if (was === isMark)
        pairs[isMark].add(re, im, x * cos(turn) + y * sin(turn), y * cos(turn) - x * sin(turn));
      [re, im, was] = [x, y, isMark];
    }
    const [mark, space] = [pairs[1], pairs[0]];
    const noise =
      (mark.noise() * mark.count + space.noise() * space.count) / max(1, mark.count + space.count);
    const power = (mark.power(noise) + space.power(noise)) / 2;
    return {
      markDbfs: 10 * log10(mark.power(noise)),
      spaceDbfs: 10 * log10(space.power(noise)),
      twistDb: 10 * log10(space.power(noise) / mark.power(noise)),
      markErrorHz: (mark.turn() * tones.baud) / (2 * Math.PI),
      spaceErrorHz: (space.turn() * tones.baud) / (2 * Math.PI),
      // A pointer of amplitude A with noise of variance V has Eb/N0 = A²/V: N0 = V · T/2, Eb = A² · T/2.
      ebN0Db: min(MOST_EBN0_DB, 10 * log10(power / (noise + Number.MIN_VALUE))),
    };
  }

  /** Flags or zeros before the frame, eight bits at a time. */
  preambleBits(place: number, spb: number): number {
    const before = this.isInverted ? 1 : 0;
    let heard = 8;
    for (let bits = 8; place - bits * spb >= 0; bits += 8) {
      // A flag is a change, six bits without, a change: it ends at the level before it.
      const flag = this.isHeard(place - bits * spb, spb, (i) => (i === 7 ? before : before ^ 1));
      const zeros = this.isHeard(place - bits * spb, spb, (i) => before ^ ((i + 1) & 1));
      if (!flag && !zeros) break;
      heard += 8;
    }
    return heard;
  }

  private isHeard(place: number, spb: number, levelOf: (i: number) => number): boolean {
    let [as, other] = [0, 0];
    for (let i = 0; i < 8; i++) {
      this.take(place, i, spb);
      const [mark, space] = [this.energy(0), this.energy(2)];
      as += levelOf(i) ? mark : space;
      other += levelOf(i) ? space : mark;
    }
    return as > HEARD_OVER_OTHER * other;
  }
}

/** Pointers of neighbours with the same tone. */
class Pairs {
  count = 0;
  private re = 0;
  private im = 0;
  private squares = 0;

  add(aRe: number, aIm: number, bRe: number, bIm: number): void {
    this.count++;
    this.re += aRe * bRe + aIm * bIm;
    this.im += aRe * bIm - aIm * bRe;
    this.squares += (aRe * aRe + aIm * aIm + bRe * bRe + bIm * bIm) / 2;
  }

  turn(): number {
    return atan2(this.im, this.re);
  }

  /** What two pointers do not have in common: the variance of the noise of one. */
  noise(): number {
    return this.count === 0 ? 0 : max(0, (this.squares - hypot(this.re, this.im)) / this.count);
  }

  power(noise: number): number {
    return this.count === 0
      ? Number.MIN_VALUE
      : max(abs(this.squares / this.count - noise), Number.MIN_VALUE);
  }
}

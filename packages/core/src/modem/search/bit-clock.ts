import type { ToneSums } from './tone-sums.js';

/** Looked up once: called for each bit. */
const { cos, sin, abs, atan2, max, min, round, sqrt } = Math;

/** Bits on either side over which the clock is estimated: a long window is steadier, a short one follows faster. */
export const CLOCK_REACH = 96;
/** Bits on either side that tell to which of two stations a bit belongs. */
const LOCAL_REACH = 12;
/** Phases of the bit clock that are tried. */
const PHASES = 8;
/** The clock follows its estimate by so much of a bit at most: 200 ppm are 0.0002. */
const PULL = 0.02;
/**
 * Clocks before and after a bit are of one station where they are less than a fifth of a bit apart; a tenth cost 0.07 dB in white
 * noise, in which they differ by chance.
 */
const ONE_STATION = cos((2 * Math.PI) / 5);
/** Bits that are kept; a power of two, more than twice the reach. */
const RING = 256;
const MASK = RING - 1;

/**
 * Where bits begin: that phase of the clock at which the tones of the windows stand out most, followed slowly. Where the windows
 * before and after a bit have two clocks, two stations follow each other, and the bits at hand tell whose it is: otherwise the
 * end of a weak frame would get the clock of a loud one after it.
 */
export class BitClock {
  /** Of each bit of the grid: the first harmonic of how far the tones stand out at each phase, which points to the best. */
  private readonly pointers = new Float64Array(2 * RING);
  /** The same, counted by how clear a bit is and not by how loud. */
  private readonly clear = new Float64Array(2 * RING);
  private readonly before = new PointerSum();
  private readonly local = new PointerSum();
  private readonly after = new PointerSum();
  /** The sums of each phase where its last bit ended, and where the present one does. */
  private last = new Float64Array(4 * PHASES);
  private now = new Float64Array(4 * PHASES);
  /** Bits of the grid that were graded. */
  private gridBit = 0;
  private next = 0;

  constructor(
    private readonly sums: ToneSums,
    private readonly samplesPerBit: number,
  ) {}

  /** The grades must reach a window beyond the bit. */
  canStep(): boolean {
    const wanted = this.next / this.samplesPerBit + CLOCK_REACH;
    while (this.gridBit < wanted) {
      if ((this.gridBit + 2) * this.samplesPerBit > this.sums.taken) return false;
      this.grade();
    }
    return true;
  }

  step(): { from: number; to: number } {
    const from = this.next;
    const to = from + this.samplesPerBit;
    const error = this.best() - from / this.samplesPerBit;
    const nearest = error - round(error);
    this.next = to + max(-PULL, min(PULL, nearest)) * this.samplesPerBit;
    return { from, to };
  }

  /** One bit of the grid more, at each phase: how far one tone stands above the other. */
  private grade(): void {
    const { last, now, pointers, samplesPerBit } = this;
    let re = 0;
    let im = 0;
    let whole = 0;
    for (let phase = 0; phase < PHASES; phase++) {
      const at = 4 * phase;
      this.sums.at((this.gridBit + 1 + phase / PHASES) * samplesPerBit, now, at);
      const mark = square(now, last, at) + square(now, last, at + 1);
      const space = square(now, last, at + 2) + square(now, last, at + 3);
      const graded = abs(mark - space);
      re += graded * (COS[phase] as number);
      im += graded * (SIN[phase] as number);
      whole += mark + space;
    }
    [this.last, this.now] = [now, last];
    const bit = this.gridBit++;
    const at = 2 * (bit & MASK);
    pointers[at] = re;
    pointers[at + 1] = im;
    this.clear[at] = whole > 0 ? re / whole : 0;
    this.clear[at + 1] = whole > 0 ? im / whole : 0;
    this.after.slide(pointers, bit, CLOCK_REACH);
    this.local.slide(this.clear, bit - CLOCK_REACH + LOCAL_REACH, 2 * LOCAL_REACH + 1);
    this.before.slide(pointers, bit - CLOCK_REACH, CLOCK_REACH);
  }

  /** In bits. Where the clocks before and after are two, that of the nearest bits. */
  private best(): number {
    const { before, local, after } = this;
    const both = before.dot(after);
    const isOne = both >= ONE_STATION * before.length() * after.length();
    const [re, im] = isOne
      ? [before.re + after.re, before.im + after.im]
      : local.dot(before) * after.length() > local.dot(after) * before.length()
        ? [before.re, before.im]
        : [after.re, after.im];
    return atan2(im, re) / (2 * Math.PI);
  }
}

class PointerSum {
  re = 0;
  im = 0;

  slide(pointers: Float64Array, newest: number, count: number): void {
    const entering = 2 * (newest & MASK);
    const leaving = 2 * ((newest - count) & MASK);
    this.re += (pointers[entering] as number) - (pointers[leaving] as number);
    this.im += (pointers[entering + 1] as number) - (pointers[leaving + 1] as number);
  }

  dot(other: PointerSum): number {
    return this.re * other.re + this.im * other.im;
  }

  length(): number {
    return sqrt(this.re * this.re + this.im * this.im);
  }
}

const square = (a: Float64Array, b: Float64Array, at: number): number =>
  ((a[at] as number) - (b[at] as number)) ** 2;
const COS = Float64Array.from({ length: PHASES }, (_, phase) => cos((2 * Math.PI * phase) / PHASES));
const SIN = Float64Array.from({ length: PHASES }, (_, phase) => sin((2 * Math.PI * phase) / PHASES));

import type { ToneSums } from './tone-sums.js';

/** Looked up once: the sample loops call them a million times a second. */
const { cos, sin, sqrt, abs, atan2, min, max } = Math;

/** What is known of the tones around one bit. */
export interface Estimate {
  /** Turn in a bit beyond what it should be: the offset of the tones. */
  offset: number;
  /** Phase of space over mark, from the way of the sound through filters. */
  between: number;
  markLevel: number;
  spaceLevel: number;
}

/** Bits on either side from which the tones are estimated. */
export const TONES_REACH = 96;
/** A window beside the bit is taken for the one around it only where its steps agree by so much better. */
export const SURER = 1.1;
/** With less than this share of the strength of the window around the bit it has run empty. */
const EMPTY = 0.01;
/** So much stronger on one side of a bit than on the other is another station, or a beginning or an end. */
const JUMP = 10;
/** Bits on either side that tell to which side a bit belongs. */
const LOCAL_REACH = 4;
/** An estimate is made for so many bits together. */
const TOGETHER = 4;
/** Bits that are kept; a power of two. */
const RING = 512;
const MASK = RING - 1;

/** Steps from bit to bit, summed by kind: the same tone again, mark to space, space to mark. */
const KINDS = 3;

/**
 * The last bits with their tones, and running sums over windows before, around and after the bit in the middle, which lies
 * TONES_REACH behind the newest. Places are bits since the first.
 */
export class BitTones {
  count = 0;
  /** mark re, im, space re, im of each. */
  readonly tones = new Float64Array(4 * RING);
  private readonly estimates: readonly Estimate[] = Array.from({ length: RING / TOGETHER }, () => ({
    offset: 0,
    between: 0,
    markLevel: 0,
    spaceLevel: 0,
  }));
  /** Of each step: its kind and the product of neighbours. */
  private readonly steps = new Float64Array(2 * RING);
  private readonly kinds = new Uint8Array(RING);
  /** In bits, from the beginning of the bit before: the clock moves. */
  private readonly advances = new Float64Array(RING);
  private readonly ends = new Float64Array(RING);
  private lastFrom = 0;
  private readonly isMark = new Uint8Array(RING);
  private readonly windows = [new StepSums(), new StepSums(), new StepSums()] as const;
  private readonly scratch = new Float64Array(4);

  constructor(
    private readonly markTurn: number,
    private readonly spaceTurn: number,
  ) {}

  add(sums: ToneSums, from: number, to: number): void {
    const at = this.count & MASK;
    const { tones, scratch } = this;
    this.advances[at] = (from - this.lastFrom) / (to - from);
    this.ends[at] = to;
    this.lastFrom = from;
    sums.between(from, to, scratch);
    tones.set(scratch, 4 * at);
    const mark = (scratch[0] as number) ** 2 + (scratch[1] as number) ** 2;
    const space = (scratch[2] as number) ** 2 + (scratch[3] as number) ** 2;
    const isMark = mark > space ? 1 : 0;
    this.isMark[at] = isMark;
    if (this.count > 0) this.noteStep((this.count - 1) & MASK, at);
    this.count++;
    this.slide();
  }

  /** Where a bit ended, in samples. */
  endOf(bit: number): number {
    return this.ends[bit & MASK] as number;
  }

  /** From the bit before, in bits. */
  advanceTo(bit: number): number {
    return this.advances[bit & MASK] as number;
  }

  estimateOf(bit: number): Estimate {
    return this.estimates[Math.floor((bit & MASK) / TOGETHER)] as Estimate;
  }

  /** Where in `tones` those of a bit begin. */
  indexOf(bit: number): number {
    return 4 * (bit & MASK);
  }

  /** How well the newest steps agree: near 1 for a clear signal, near 0 for noise. */
  get agreement(): number {
    return this.windows[2].coherence();
  }

  private noteStep(before: number, at: number): void {
    const { tones, steps, isMark } = this;
    const was = isMark[before] === 1;
    const is = isMark[at] === 1;
    const a = 4 * before + (was ? 0 : 2);
    const b = 4 * at + (is ? 0 : 2);
    const [aRe, aIm] = [tones[a] as number, tones[a + 1] as number];
    const [bRe, bIm] = [tones[b] as number, tones[b + 1] as number];
    // What the bit before turns by itself is taken out.
    const angle = -(was ? this.markTurn : this.spaceTurn) * (this.advances[at] as number);
    const [c, d] = [cos(angle), sin(angle)];
    const re = bRe * aRe + bIm * aIm;
    const im = bIm * aRe - bRe * aIm;
    steps[2 * at] = re * c - im * d;
    steps[2 * at + 1] = re * d + im * c;
    this.kinds[at] = was === is ? 0 : was ? 1 : 2;
  }

  /** Windows of the estimates: the older half, the middle, the newer half of what is kept around the bit in the middle. */
  private slide(): void {
    const newest = this.count - 1;
    const [before, around, after] = this.windows;
    this.move(after, newest, newest - TONES_REACH);
    this.move(around, newest - TONES_REACH / 2, newest - TONES_REACH / 2 - TONES_REACH);
    this.move(before, newest - TONES_REACH, newest - 2 * TONES_REACH);
    const middle = newest - TONES_REACH;
    if (middle < 0 || middle % TOGETHER !== 0) return;
    this.bestOf(before, around, after, middle).estimate(this.estimateOf(middle));
  }

  private bestOf(before: StepSums, around: StepSums, after: StepSums, middle: number): StepSums {
    const [was, is] = [before.strength(), after.strength()];
    // Two stations, or one and noise: the window around holds both.
    if (max(was, is) > JUMP * min(was, is)) {
      const local = this.strengthAbout(middle) * (TONES_REACH / (2 * LOCAL_REACH + 1));
      return local * local > was * is === is > was ? after : before;
    }
    let best = around;
    // A window that has run empty holds nothing but what rounding left.
    for (const one of [before, after])
      if (one.strength() > EMPTY * around.strength() && one.coherence() > best.coherence() * SURER)
        best = one;
    return best;
  }

  private strengthAbout(middle: number): number {
    let sum = 0;
    for (let bit = middle - LOCAL_REACH; bit <= middle + LOCAL_REACH; bit++) sum += this.powerOf(bit & MASK);
    return sum;
  }

  private powerOf(at: number): number {
    const tone = 4 * at + (this.isMark[at] === 1 ? 0 : 2);
    return (this.tones[tone] as number) ** 2 + (this.tones[tone + 1] as number) ** 2;
  }

  private move(window: StepSums, entering: number, leaving: number): void {
    if (entering > 0) this.countAt(window, entering & MASK, 1);
    if (leaving > 0) this.countAt(window, leaving & MASK, -1);
  }

  private countAt(window: StepSums, at: number, sign: number): void {
    window.count(
      this.kinds[at] as number,
      this.steps[2 * at] as number,
      this.steps[2 * at + 1] as number,
      this.isMark[at] as number,
      this.powerOf(at),
      sign,
    );
  }
}

/** Sums over one window. */
class StepSums {
  private readonly re = new Float64Array(KINDS);
  private readonly im = new Float64Array(KINDS);
  private readonly power = new Float64Array(2);
  private readonly number = new Float64Array(2);

  count(kind: number, re: number, im: number, isMark: number, power: number, sign: number): void {
    this.re[kind] = (this.re[kind] as number) + sign * re;
    this.im[kind] = (this.im[kind] as number) + sign * im;
    this.power[isMark] = (this.power[isMark] as number) + sign * power;
    this.number[isMark] = (this.number[isMark] as number) + sign;
  }

  strength(): number {
    return (this.power[0] as number) + (this.power[1] as number);
  }

  /** How well the steps agree: near 1 for a clear signal, near 0 for noise, and for a window that is hardly filled. */
  coherence(): number {
    const whole = this.strength();
    if (whole <= 0) return 0;
    let sum = 0;
    for (let kind = 0; kind < KINDS; kind++) sum += size(this.re[kind] as number, this.im[kind] as number);
    const filled = (this.number[0] as number) + (this.number[1] as number);
    return (sum / whole) * min(1, filled / TONES_REACH);
  }

  estimate(into: Estimate): void {
    const [re0 = 0, re1 = 0, re2 = 0] = this.re;
    const [im0 = 0, im1 = 0, im2 = 0] = this.im;
    // Mark to space turns by offset + between, space to mark by offset − between: their product by twice the offset.
    const same = atan2(im0, re0);
    const both = atan2(im1, re1) + atan2(im2, re2);
    const half = both / 2;
    const apart = atan2(sin(half - same), cos(half - same));
    // The half is known but for half a turn: the one nearer to the same-tone steps.
    const other = abs(apart) > Math.PI / 2 ? half + Math.PI : half;
    const weightSame = size(re0, im0);
    const weightOther = size(re1, im1) + size(re2, im2);
    const total = weightSame + weightOther || 1;
    into.offset = atan2(
      (weightSame * sin(same) + weightOther * sin(other)) / total,
      (weightSame * cos(same) + weightOther * cos(other)) / total,
    );
    const [c, d] = [cos(into.offset), sin(into.offset)];
    // Turned back by the offset, mark to space points to between and space to mark to its mirror.
    const re = re1 * c + im1 * d + (re2 * c + im2 * d);
    const im = im1 * c - re1 * d - (im2 * c - re2 * d);
    into.between = atan2(im, re);
    into.spaceLevel = sqrt(max(0, (this.power[0] as number) / max(1, this.number[0] as number)));
    into.markLevel = sqrt(max(0, (this.power[1] as number) / max(1, this.number[1] as number)));
  }
}

/** As Math.hypot, which takes ten times as long. */
const size = (re: number, im: number): number => sqrt(re * re + im * im);

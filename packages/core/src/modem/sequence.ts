import type { HdlcDiscard } from '../hdlc/bit-stream.js';
import { HdlcDecoder } from '../hdlc/bit-stream.js';
import { ToneSums } from './tone-sums.js';
import type { Tones } from './tones.js';

/** Looked up once: the sample loops call them a million times a second. */
const { cos, sin, sqrt, abs, atan2, hypot } = Math;

/**
 * Sequence detection. The tones are one oscillation whose phase never jumps: within a bit it turns by a whole cycle for a mark
 * and by h more for a space (Bell 202: 1000 Hz / 1200 baud = 0.833), so that after each bit it stands in one of six places, and
 * each bit says something of its neighbours. A Viterbi search keeps the likeliest path to each place (Viterbi 1967; Forney
 * 1973), each with its own idea of the phase.
 *
 *   sums of tones ─→ clock: where bits begin (a window ahead) ─→ tones of each bit ─→ offset, phase between the tones,
 *   amplitudes (a window around) ─→ search ─→ bits
 */

/** Places of the phase after a bit. */
const PLACES = 6;
/** Bits around which clock and tones are estimated: a long window is steadier, a short one follows faster. */
const HALF_WINDOW = 128;
const WINDOW = 2 * HALF_WINDOW;
/** Phases of the bit clock that are tried. */
const CLOCK_PHASES = 8;
/** The clock follows its estimate by so much of a bit at most: 200 ppm are 0.0002. */
const CLOCK_PULL = 0.02;
/** How much of a bit's phase error a path takes over. */
const PHASE_PULL = 0.15;
/** How much of it is taken for an error of the offset; what was taken fades, and stays below what the estimate leaves. */
const DRIFT_PULL = 0.01;
const DRIFT_KEPT = 0.99;
const MOST_DRIFT = 0.06;
/** Bits after which all paths have one past. */
const DEPTH = 40;

export class SequenceDetector {
  private readonly sums: ToneSums;
  private readonly samplesPerBit: number;
  private readonly hdlc = new HdlcDecoder();
  private readonly out: (Uint8Array | HdlcDiscard)[] = [];
  private readonly clock: BitClock;
  private readonly bits: BitRing;
  private readonly search: Search;
  private level = 0;

  constructor(rateHz: number, tones: Tones) {
    const { baud, markHz, spaceHz } = tones;
    this.samplesPerBit = rateHz / baud;
    const needed = (WINDOW + 8) * this.samplesPerBit;
    this.sums = new ToneSums(rateHz, tones, 2 ** Math.ceil(Math.log2(needed + 8192)));
    this.clock = new BitClock(this.sums, this.samplesPerBit);
    const turnOf = (hz: number): number => (2 * Math.PI * hz) / baud;
    this.bits = new BitRing(turnOf(markHz), turnOf(spaceHz));
    this.search = new Search(turnOf(markHz), turnOf(spaceHz));
  }

  /** Tells of each frame and where it ended, in samples since the first. A frame is known a quarter of a second after it. */
  push(samples: Float32Array, count: number, found: (raw: Uint8Array, end: number) => void): void {
    this.sums.push(samples, count);
    while (this.clock.canStep()) {
      const { from, to } = this.clock.step();
      this.bits.add(this.sums, from, to);
      if (this.bits.count <= HALF_WINDOW) continue;
      const bit = this.search.take(this.bits);
      if (bit < 0) continue;
      this.hdlc.pushBit(bit === this.level ? 1 : 0, this.out);
      this.level = bit;
      for (const item of this.out) if (item instanceof Uint8Array) found(item, this.bits.decidedAt());
      this.out.length = 0;
    }
  }
}

/** Where bits begin: that phase of the clock at which the tones of the window stand out most, followed slowly. */
class BitClock {
  private readonly strength = new Float64Array(CLOCK_PHASES);
  private readonly kept = new Float64Array(CLOCK_PHASES * WINDOW);
  private readonly tones = new Float64Array(4);
  /** Bits of the grid that the strengths were taken of. */
  private gridBit = 0;
  private next = 0;

  constructor(
    private readonly sums: ToneSums,
    private readonly samplesPerBit: number,
  ) {}

  /** The strengths must reach half a window beyond the bit. */
  canStep(): boolean {
    const wanted = this.next / this.samplesPerBit + HALF_WINDOW;
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
    const nearest = error - Math.round(error);
    this.next = to + Math.max(-CLOCK_PULL, Math.min(CLOCK_PULL, nearest)) * this.samplesPerBit;
    return { from, to };
  }

  /** One bit of the grid more, at each phase: how far one tone stands above the other. */
  private grade(): void {
    const { tones, strength, kept, samplesPerBit } = this;
    const slot = (this.gridBit % WINDOW) * CLOCK_PHASES;
    for (let phase = 0; phase < CLOCK_PHASES; phase++) {
      const from = (this.gridBit + phase / CLOCK_PHASES) * samplesPerBit;
      this.sums.between(from, from + samplesPerBit, tones);
      const mark = (tones[0] as number) ** 2 + (tones[1] as number) ** 2;
      const space = (tones[2] as number) ** 2 + (tones[3] as number) ** 2;
      const graded = abs(mark - space);
      strength[phase] = (strength[phase] as number) + graded - (kept[slot + phase] as number);
      kept[slot + phase] = graded;
    }
    this.gridBit++;
  }

  /** In bits, 0 to 1: the phase of the first harmonic of the strengths, which is their top. */
  private best(): number {
    let re = 0;
    let im = 0;
    for (let phase = 0; phase < CLOCK_PHASES; phase++) {
      const angle = (2 * Math.PI * phase) / CLOCK_PHASES;
      re += (this.strength[phase] as number) * cos(angle);
      im += (this.strength[phase] as number) * sin(angle);
    }
    return atan2(im, re) / (2 * Math.PI);
  }
}

/** What is known of the tones around one bit. */
interface Estimate {
  /** Turn in a bit beyond what it should be: the offset of the tones. */
  offset: number;
  /** Phase of space over mark, from the way of the sound through filters. */
  between: number;
  markLevel: number;
  spaceLevel: number;
}

/** A window beside the bit is taken for the one around it only where its steps agree by so much better. */
const SURER = 1.1;
const EMPTY = 0.01;

/** Steps from bit to bit, summed by kind: the same tone again, mark to space, space to mark. */
const KINDS = 3;

/** The last bits with their tones, and running sums over windows before, around and after the bit in the middle. */
class BitRing {
  count = 0;
  /** mark re, im, space re, im of each. */
  private readonly tones = new Float64Array(4 * 2 * WINDOW);
  /** Of each step: its kind and the product of neighbours. */
  private readonly steps = new Float64Array(2 * 2 * WINDOW);
  private readonly kinds = new Uint8Array(2 * WINDOW);
  /** In bits, from the beginning of the bit before: the clock moves. */
  private readonly advances = new Float64Array(2 * WINDOW);
  private readonly ends = new Float64Array(2 * WINDOW);
  private lastFrom = 0;
  private readonly isMark = new Uint8Array(2 * WINDOW);
  private readonly windows = [new StepSums(), new StepSums(), new StepSums()] as const;
  readonly estimate: Estimate = { offset: 0, between: 0, markLevel: 0, spaceLevel: 0 };
  private readonly scratch = new Float64Array(4);

  constructor(
    private readonly markTurn: number,
    private readonly spaceTurn: number,
  ) {}

  add(sums: ToneSums, from: number, to: number): void {
    const size = 2 * WINDOW;
    const at = this.count % size;
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
    if (this.count > 0) this.noteStep((this.count - 1) % size, at);
    this.count++;
    this.slide();
  }

  /** Where the bit ended that the search has just decided, in samples. */
  decidedAt(): number {
    const size = 2 * WINDOW;
    return this.ends[(this.count - 1 - HALF_WINDOW - (DEPTH - 1) + size) % size] as number;
  }

  /** From the bit that the estimates stand for to the next, in bits. */
  advance(): number {
    return this.advances[(this.count - HALF_WINDOW) % (2 * WINDOW)] as number;
  }

  /** The tones of the bit that the estimates stand for, into out. */
  middle(out: Float64Array): void {
    const at = 4 * ((this.count - 1 - HALF_WINDOW) % (2 * WINDOW));
    for (let i = 0; i < 4; i++) out[i] = this.tones[at + i] as number;
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
    this.move(after, newest, newest - HALF_WINDOW);
    this.move(around, newest - HALF_WINDOW / 2, newest - HALF_WINDOW / 2 - HALF_WINDOW);
    this.move(before, newest - HALF_WINDOW, newest - WINDOW);
    if (this.count <= HALF_WINDOW) return;
    let best: StepSums = around;
    // A window that has run empty holds nothing but what rounding left.
    for (const one of [before, after])
      if (one.strength() > EMPTY * around.strength() && one.coherence() > best.coherence() * SURER)
        best = one;
    best.estimate(this.estimate);
  }

  private move(window: StepSums, entering: number, leaving: number): void {
    const size = 2 * WINDOW;
    if (entering > 0) this.counted(window, entering % size, 1);
    if (leaving > 0) this.counted(window, leaving % size, -1);
  }

  private counted(window: StepSums, at: number, sign: number): void {
    const tone = 4 * at + (this.isMark[at] === 1 ? 0 : 2);
    const power = (this.tones[tone] as number) ** 2 + (this.tones[tone + 1] as number) ** 2;
    window.count(
      this.kinds[at] as number,
      this.steps[2 * at] as number,
      this.steps[2 * at + 1] as number,
      this.isMark[at] as number,
      power,
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
    for (let kind = 0; kind < KINDS; kind++) sum += hypot(this.re[kind] as number, this.im[kind] as number);
    const filled = (this.number[0] as number) + (this.number[1] as number);
    return (sum / whole) * Math.min(1, filled / HALF_WINDOW);
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
    const weightSame = hypot(re0, im0);
    const weightOther = hypot(re1, im1) + hypot(re2, im2);
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
    into.spaceLevel = sqrt(Math.max(0, (this.power[0] as number) / Math.max(1, this.number[0] as number)));
    into.markLevel = sqrt(Math.max(0, (this.power[1] as number) / Math.max(1, this.number[1] as number)));
  }
}

/** The search itself. */
class Search {
  private readonly tones = new Float64Array(4);
  private metrics = new Float64Array(PLACES);
  private nextMetrics = new Float64Array(PLACES);
  private phases = Float64Array.from({ length: PLACES }, (_, place) => (2 * Math.PI * place) / PLACES);
  private nextPhases = new Float64Array(PLACES);
  /** What each path has found to be wrong with the offset. */
  private drifts = new Float64Array(PLACES);
  private nextDrifts = new Float64Array(PLACES);
  /** From which place each place was reached, and by which bit: place · 2 + bit, for the last bits. */
  private readonly paths = new Uint8Array(PLACES * DEPTH);
  private taken = 0;

  /** By how many places a space leads further than a mark. */
  private readonly shift: number;

  constructor(
    private readonly markTurn: number,
    private readonly spaceTurn: number,
  ) {
    this.shift = Math.round((PLACES * (spaceTurn - markTurn)) / (2 * Math.PI)) % PLACES;
  }

  /** One bit more; the tone (1 mark, 0 space) of the bit DEPTH before, or −1 while there is none. */
  take(bits: BitRing): number {
    const { tones, metrics, phases, nextMetrics, nextPhases, paths } = this;
    bits.middle(tones);
    const { offset, between, markLevel, spaceLevel } = bits.estimate;
    const advance = bits.advance();
    const [markTurn, spaceTurn] = [this.markTurn * advance + offset, this.spaceTurn * advance + offset];
    const slot = (this.taken % DEPTH) * PLACES;
    const [mRe, mIm, sRe, sIm] = [
      tones[0] as number,
      tones[1] as number,
      tones[2] as number,
      tones[3] as number,
    ];
    let best = 0;
    for (let place = 0; place < PLACES; place++) {
      const from = place;
      const fromSpace = (place - this.shift + PLACES) % PLACES;
      const markPhase = phases[from] as number;
      const spacePhase = (phases[fromSpace] as number) + between;
      const [mc, ms] = [cos(markPhase), sin(markPhase)];
      const [sc, ss] = [cos(spacePhase), sin(spacePhase)];
      const markRe = mRe * mc + mIm * ms;
      const spaceRe = sRe * sc + sIm * ss;
      const byMark = (metrics[from] as number) + markLevel * markRe - (markLevel * markLevel) / 2;
      const bySpace = (metrics[fromSpace] as number) + spaceLevel * spaceRe - (spaceLevel * spaceLevel) / 2;
      if (byMark >= bySpace) {
        nextMetrics[place] = byMark;
        const error = held(markLevel > 0 ? (mIm * mc - mRe * ms) / markLevel : 0);
        const drift = driftOf(this.drifts[from] as number, error);
        this.nextDrifts[place] = drift;
        nextPhases[place] = markPhase + markTurn + drift + PHASE_PULL * error;
        paths[slot + place] = 2 * from + 1;
      } else {
        nextMetrics[place] = bySpace;
        const error = held(spaceLevel > 0 ? (sIm * sc - sRe * ss) / spaceLevel : 0);
        const drift = driftOf(this.drifts[fromSpace] as number, error);
        this.nextDrifts[place] = drift;
        nextPhases[place] = (phases[fromSpace] as number) + spaceTurn + drift + PHASE_PULL * error;
        paths[slot + place] = 2 * fromSpace;
      }
      if ((nextMetrics[place] as number) > (nextMetrics[best] as number)) best = place;
    }
    this.level(best);
    this.taken++;
    return this.taken < DEPTH ? -1 : this.decided(best);
  }

  /** Metrics stay small, phases within a turn. */
  private level(best: number): void {
    const top = this.nextMetrics[best] as number;
    for (let place = 0; place < PLACES; place++) {
      this.nextMetrics[place] = (this.nextMetrics[place] as number) - top;
      this.nextPhases[place] = (this.nextPhases[place] as number) % (2 * Math.PI);
    }
    [this.metrics, this.nextMetrics] = [this.nextMetrics, this.metrics];
    [this.phases, this.nextPhases] = [this.nextPhases, this.phases];
    [this.drifts, this.nextDrifts] = [this.nextDrifts, this.drifts];
  }

  private decided(best: number): number {
    let place = best;
    let step = 0;
    for (let back = 0; back < DEPTH; back++) {
      step = this.paths[((this.taken - 1 - back + DEPTH * 2) % DEPTH) * PLACES + place] as number;
      place = step >> 1;
    }
    return step & 1;
  }
}

const driftOf = (drift: number, error: number): number =>
  Math.max(-MOST_DRIFT, Math.min(MOST_DRIFT, DRIFT_KEPT * drift + DRIFT_PULL * error));

const held = (error: number): number => Math.max(-1, Math.min(1, error));

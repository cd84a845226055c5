import type { Estimate } from './bit-tones.js';

/** Looked up once: called for each path. */
const { abs, cos, sin, max, min } = Math;

/** Places of the phase after a bit. */
const PLACES = 6;
/** What a path took for an error of the offset fades, and stays below what the estimate leaves. */
const DRIFT_KEPT = 0.99;
const MOST_DRIFT = 0.06;
/** Two paths that come together parted at most so many bits before, or nothing is told of them. */
const LONGEST_DOUBT = 8;
/** Steps that are kept; a power of two. */
const KEPT = 64;

/**
 * depth: bits after which all paths are taken to have one past, 32 at most. phasePull: how much of a bit's phase error a path takes over;
 * driftPull: how much of it is taken for an error of the offset. tellsDoubts: whether margin and mask are
 * wanted.
 */
export interface SearchOptions {
  readonly depth: number;
  readonly phasePull: number;
  readonly driftPull: number;
  readonly tellsDoubts: boolean;
}

/** The likeliest path to each place of the phase, each with its own idea of the phase (Viterbi 1967; per-survivor processing: Raheli 1995). */
export class PhaseSearch {
  readonly depth: number;
  private readonly phasePull: number;
  private readonly driftPull: number;
  private readonly tellsDoubts: boolean;
  private metrics = new Float64Array(PLACES);
  private nextMetrics = new Float64Array(PLACES);
  /** The phase of each path as a pointer, re and im. */
  private pointers = Float64Array.from({ length: 2 * PLACES }, (_, i) => {
    const angle = (2 * Math.PI * (i >> 1)) / PLACES;
    return i & 1 ? sin(angle) : cos(angle);
  });
  private nextPointers = new Float64Array(2 * PLACES);
  /** What each path has found to be wrong with the offset. */
  private drifts = new Float64Array(PLACES);
  private nextDrifts = new Float64Array(PLACES);
  /** The last 32 tones of each path, the newest in bit 0. */
  private histories = new Uint32Array(PLACES);
  private nextHistories = new Uint32Array(PLACES);
  /** From which place each place was reached, and by which bit: place · 2 + bit, for the last bits. */
  private readonly paths = new Uint8Array(PLACES * KEPT);
  /** By how much the path was better that came to each place. */
  private readonly margins = new Float64Array(PLACES * KEPT);
  /** Of the bit decided last: how sure the choice was, and which tones the other path had different (0: not known). */
  margin = 0;
  mask = 0;
  /** And where its phase began, as a share of a turn. */
  place = 0;
  private taken = 0;
  /** By how many places a space leads further than a mark. */
  private readonly shift: number;

  constructor(
    private readonly markTurn: number,
    private readonly spaceTurn: number,
    { depth, phasePull, driftPull, tellsDoubts }: SearchOptions,
  ) {
    this.shift = Math.round((PLACES * (spaceTurn - markTurn)) / (2 * Math.PI)) % PLACES;
    this.depth = depth;
    this.phasePull = phasePull;
    this.driftPull = driftPull;
    this.tellsDoubts = tellsDoubts;
  }

  /**
   * One bit more: its tones from index at on, what is known about them, and the way to the next bit, in bits. Returns the tone
   * (1 mark, 0 space) of the bit `depth` before, or −1 while there is none.
   */
  take(tones: Float64Array, at: number, estimate: Estimate, offset: number, advance: number): number {
    const { metrics, pointers, drifts, nextMetrics, nextPointers, nextDrifts, paths, shift } = this;
    const { histories, nextHistories } = this;
    const { between, markLevel, spaceLevel } = estimate;
    const mRe = tones[at] as number;
    const mIm = tones[at + 1] as number;
    // The phase between the tones is taken off.
    const [bc, bs] = [cos(between), sin(between)];
    const sRe = (tones[at + 2] as number) * bc + (tones[at + 3] as number) * bs;
    const sIm = (tones[at + 3] as number) * bc - (tones[at + 2] as number) * bs;
    const markAngle = this.markTurn * advance + offset;
    const spaceAngle = this.spaceTurn * advance + offset;
    const [markC, markS] = [cos(markAngle), sin(markAngle)];
    const [spaceC, spaceS] = [cos(spaceAngle), sin(spaceAngle)];
    const perMark = markLevel > 0 ? 1 / markLevel : 0;
    const perSpace = spaceLevel > 0 ? 1 / spaceLevel : 0;
    const markEnergy = (markLevel * markLevel) / 2;
    const spaceEnergy = (spaceLevel * spaceLevel) / 2;
    const slot = (this.taken & (KEPT - 1)) * PLACES;
    let best = 0;
    let from = PLACES - shift;
    for (let place = 0; place < PLACES; place++) {
      const fromSpace = from === PLACES ? (from = 0) : from;
      from++;
      const ma = pointers[2 * place] as number;
      const mb = pointers[2 * place + 1] as number;
      const sa = pointers[2 * fromSpace] as number;
      const sb = pointers[2 * fromSpace + 1] as number;
      const byMark = (metrics[place] as number) + markLevel * (mRe * ma + mIm * mb) - markEnergy;
      const bySpace = (metrics[fromSpace] as number) + spaceLevel * (sRe * sa + sIm * sb) - spaceEnergy;
      this.margins[slot + place] = abs(byMark - bySpace);
      const isMark = byMark >= bySpace;
      const metric = isMark ? byMark : bySpace;
      nextMetrics[place] = metric;
      paths[slot + place] = isMark ? 2 * place + 1 : 2 * fromSpace;
      nextHistories[place] = isMark
        ? ((histories[place] as number) << 1) | 1
        : (histories[fromSpace] as number) << 1;
      if (metric > (nextMetrics[best] as number)) best = place;
      // The pointer goes on by the tone's turn, and by what it was found to be behind.
      const error = held(isMark ? (mIm * ma - mRe * mb) * perMark : (sIm * sa - sRe * sb) * perSpace);
      const drift = held(
        DRIFT_KEPT * (drifts[isMark ? place : fromSpace] as number) + this.driftPull * error,
        MOST_DRIFT,
      );
      nextDrifts[place] = drift;
      const small = drift + this.phasePull * error;
      const smallC = 1 - (small * small) / 2;
      const turnC = isMark ? markC : spaceC;
      const turnS = isMark ? markS : spaceS;
      const c = turnC * smallC - turnS * small;
      const s = turnS * smallC + turnC * small;
      const a = isMark ? ma : sa;
      const b = isMark ? mb : sb;
      const re = a * c - b * s;
      const im = b * c + a * s;
      // Back to length 1.
      const scale = (3 - re * re - im * im) / 2;
      nextPointers[2 * place] = re * scale;
      nextPointers[2 * place + 1] = im * scale;
    }
    this.goOn(best);
    this.taken++;
    return this.taken < this.depth ? -1 : this.decided(best);
  }

  /** Metrics stay small. */
  private goOn(best: number): void {
    const top = this.nextMetrics[best] as number;
    for (let place = 0; place < PLACES; place++)
      this.nextMetrics[place] = (this.nextMetrics[place] as number) - top;
    [this.metrics, this.nextMetrics] = [this.nextMetrics, this.metrics];
    [this.pointers, this.nextPointers] = [this.nextPointers, this.pointers];
    [this.drifts, this.nextDrifts] = [this.nextDrifts, this.drifts];
    [this.histories, this.nextHistories] = [this.nextHistories, this.histories];
  }

  /** How many spaces came since tells how far the phase went, and so where it stood. */
  private decided(best: number): number {
    const { depth, shift } = this;
    const history = this.histories[best] as number;
    const tone = (history >>> (depth - 1)) & 1;
    const spaces = depth - 1 - ones(history & (2 ** (depth - 1) - 1));
    const after = (((best - shift * spaces) % PLACES) + PLACES) % PLACES;
    this.place = (tone ? after : (after - shift + PLACES) % PLACES) / PLACES;
    if (this.tellsDoubts) {
      this.margin = this.margins[this.slot(depth - 1) + after] as number;
      this.mask = this.doubt(after);
    }
    return tone;
  }

  private slot(back: number): number {
    return ((this.taken - 1 - back) & (KEPT - 1)) * PLACES;
  }

  private stepTo(place: number, back: number): number {
    return this.paths[this.slot(back) + place] as number;
  }

  /** The tones in which the path that was given up at this place differs, the decided bit first; 0 where it parted too long ago. */
  private doubt(place: number): number {
    const { depth } = this;
    const taken = this.stepTo(place, depth - 1);
    let one = taken >> 1;
    let other = taken & 1 ? (place - this.shift + PLACES) % PLACES : place;
    let mask = 1;
    for (let back = 1; back < LONGEST_DOUBT; back++) {
      const stepOfOne = this.stepTo(one, depth - 1 + back);
      const stepOfOther = this.stepTo(other, depth - 1 + back);
      if ((stepOfOne ^ stepOfOther) & 1) mask |= 1 << back;
      one = stepOfOne >> 1;
      other = stepOfOther >> 1;
      if (one === other) return mask;
    }
    return 0;
  }
}

const held = (value: number, most = 1): number => max(-most, min(most, value));

/** How many bits of a word are set. */
function ones(word: number): number {
  let left = word - ((word >>> 1) & 0x55555555);
  left = (left & 0x33333333) + ((left >>> 2) & 0x33333333);
  return (((left + (left >>> 4)) & 0x0f0f0f0f) * 0x01010101) >>> 24;
}

import type { BitTones } from './bit-tones.js';

/** Looked up once: the sample loops call them a million times a second. */
const { cos, sin, abs } = Math;

/** Places of the phase after a bit. */
const PLACES = 6;
/** How much of a bit's phase error a path takes over. */
const PHASE_PULL = 0.15;
/** How much of it is taken for an error of the offset; what was taken fades, and stays below what the estimate leaves. */
const DRIFT_PULL = 0.01;
const DRIFT_KEPT = 0.99;
const MOST_DRIFT = 0.06;
/** Bits after which all paths have one past. */
export const DEPTH = 40;
/** Two paths that come together parted at most so many bits before, or nothing is told of them. */
const LONGEST_DOUBT = 8;
/** Steps that are kept; a power of two. */
const KEPT = 64;

/** The likeliest path to each place of the phase. */
export class PhaseSearch {
  private readonly tones = new Float64Array(4);
  private metrics = new Float64Array(PLACES);
  private nextMetrics = new Float64Array(PLACES);
  private phases = Float64Array.from({ length: PLACES }, (_, place) => (2 * Math.PI * place) / PLACES);
  private nextPhases = new Float64Array(PLACES);
  /** What each path has found to be wrong with the offset. */
  private drifts = new Float64Array(PLACES);
  private nextDrifts = new Float64Array(PLACES);
  /** From which place each place was reached, and by which bit: place · 2 + bit, for the last bits. */
  private readonly paths = new Uint8Array(PLACES * KEPT);
  /** By how much the path was better that came to each place. */
  private readonly margins = new Float64Array(PLACES * KEPT);
  /** Of the bit decided last: how sure the choice was, and which tones the other path had different (0: not known). */
  margin = 0;
  mask = 0;
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
  take(bits: BitTones): number {
    const { tones, metrics, phases, nextMetrics, nextPhases, paths } = this;
    bits.middle(tones);
    const { offset, between, markLevel, spaceLevel } = bits.estimate;
    const advance = bits.advance();
    const [markTurn, spaceTurn] = [this.markTurn * advance + offset, this.spaceTurn * advance + offset];
    const slot = (this.taken % KEPT) * PLACES;
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
      this.margins[slot + place] = abs(byMark - bySpace);
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
    for (let back = 0; back < DEPTH - 1; back++) place = this.stepTo(place, back) >> 1;
    this.margin = this.margins[this.slot(DEPTH - 1) + place] as number;
    this.mask = this.doubt(place);
    return this.stepTo(place, DEPTH - 1) & 1;
  }

  private slot(back: number): number {
    return ((this.taken - 1 - back + KEPT * 2) % KEPT) * PLACES;
  }

  private stepTo(place: number, back: number): number {
    return this.paths[this.slot(back) + place] as number;
  }

  /** The tones in which the path that was given up at this place differs, the decided bit first; 0 where it parted too long ago. */
  private doubt(place: number): number {
    const taken = this.stepTo(place, DEPTH - 1);
    let one = taken >> 1;
    let other = taken & 1 ? (place - this.shift + PLACES) % PLACES : place;
    let mask = 1;
    for (let back = 1; back < LONGEST_DOUBT; back++) {
      const stepOfOne = this.stepTo(one, DEPTH - 1 + back);
      const stepOfOther = this.stepTo(other, DEPTH - 1 + back);
      if ((stepOfOne ^ stepOfOther) & 1) mask |= 1 << back;
      one = stepOfOne >> 1;
      other = stepOfOther >> 1;
      if (one === other) return mask;
    }
    return 0;
  }
}

const driftOf = (drift: number, error: number): number =>
  Math.max(-MOST_DRIFT, Math.min(MOST_DRIFT, DRIFT_KEPT * drift + DRIFT_PULL * error));

const held = (error: number): number => Math.max(-1, Math.min(1, error));

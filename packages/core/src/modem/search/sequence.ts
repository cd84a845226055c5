import { NrziLine } from '../../hdlc/line-code.js';
import type { Tones } from '../tones.js';
import { BitClock, CLOCK_REACH } from './bit-clock.js';
import { BitTones, TONES_REACH } from './bit-tones.js';
import type { HdlcDiscards } from '../../hdlc/bit-stream.js';
import { DoubtfulFramer, type Found } from './doubtful-framer.js';
import { OffsetRefinement, REFINED_REACH } from './offset-refinement.js';
import { PhaseSearch, type SearchOptions } from './phase-search.js';
import { ToneSums } from './tone-sums.js';

/** Samples of one push: the sums keep so many beyond what the search looks back to. */
const MOST_AT_ONCE = 8192;
/** The first search has a coarse offset and must follow; the second knows it. Found by trial in white noise at 5.5 dB. */
const FIRST: SearchOptions = { depth: 20, phasePull: 0.15, driftPull: 0.01, tellsDoubts: false };
const SECOND: SearchOptions = { depth: 32, phasePull: 0.08, driftPull: 0.003, tellsDoubts: true };
/** Noise stays below; a signal of which half of the frames can be read has three times as much. */
const SIGNAL_COHERENCE = 0.2;
/** A frame is known so many bits after its end. */
export const SEARCH_DELAY_BITS = CLOCK_REACH + TONES_REACH + FIRST.depth + REFINED_REACH + SECOND.depth;

/**
 * Sequence detection. The tones are one oscillation whose phase never jumps: within a bit it turns by a whole cycle for a mark
 * and by h more for a space (Bell 202: 1000 Hz / 1200 baud = 0.833), so that after each bit it stands in one of six places, and
 * each bit says something of its neighbours. A Viterbi search keeps the likeliest path to each place (Viterbi 1967; Forney
 * 1973), each with its own idea of the phase. It is made twice: what the first finds tells the offset so well that the second
 * hardly ever loses the phase.
 *
 *   sums of tones ─→ clock: where bits begin ─→ tones of each bit ─→ offset, phase between the tones, amplitudes ─→ first
 *   search ─→ offset refined ─→ second search ─→ bits
 */
export class SequenceDetector {
  private readonly sums: ToneSums;
  private readonly clock: BitClock;
  private readonly bits: BitTones;
  private readonly first: PhaseSearch;
  private readonly refinement = new OffsetRefinement();
  private readonly second: PhaseSearch;
  private readonly framer = new DoubtfulFramer(() => new NrziLine());
  private readonly markTurn: number;

  constructor(rateHz: number, tones: Tones) {
    const { baud, markHz, spaceHz } = tones;
    const places = (6 * (spaceHz - markHz)) / baud;
    if (Math.abs(places - Math.round(places)) > 0.05)
      throw new RangeError('this decoder reads tones that are a multiple of a sixth of the bit rate apart');
    const samplesPerBit = rateHz / baud;
    const needed = (2 * CLOCK_REACH + 8) * samplesPerBit + MOST_AT_ONCE;
    this.sums = new ToneSums(rateHz, tones, 2 ** Math.ceil(Math.log2(needed)));
    this.clock = new BitClock(this.sums, samplesPerBit);
    this.markTurn = (2 * Math.PI * markHz) / baud;
    const spaceTurn = (2 * Math.PI * spaceHz) / baud;
    this.bits = new BitTones(this.markTurn, spaceTurn);
    this.first = new PhaseSearch(this.markTurn, spaceTurn, FIRST);
    this.second = new PhaseSearch(this.markTurn, spaceTurn, SECOND);
  }

  get discards(): HdlcDiscards {
    return this.framer.discards;
  }

  /** Tells of each frame and where it ended, in samples since the first. A frame is known a quarter of a second after it. */
  push(samples: Float32Array, count: number, found: Found): void {
    if (count > MOST_AT_ONCE) throw new RangeError(`at most ${MOST_AT_ONCE} samples at once`);
    this.sums.push(samples, count);
    const { clock, bits } = this;
    while (clock.canStep()) {
      const { from, to } = clock.step();
      bits.add(this.sums, from, to);
      const bit = bits.count - 1 - TONES_REACH;
      if (bit < 0) continue;
      const tone = this.search(this.first, bit, bits.estimateOf(bit).offset);
      if (tone >= 0) this.refine(bit - FIRST.depth + 1, tone, found);
    }
  }

  /** How well the newest bits agree: near 1 for a clear signal, 0 for noise. */
  get steadiness(): number {
    return this.bits.agreement;
  }

  private search(search: PhaseSearch, bit: number, offset: number): number {
    const { bits } = this;
    return search.take(bits.tones, bits.indexOf(bit), bits.estimateOf(bit), offset, bits.advanceTo(bit + 1));
  }

  /** The first search has found the tone of a bit. */
  private refine(bit: number, tone: number, found: Found): void {
    const { bits, refinement } = this;
    refinement.add(
      bits.tones,
      bits.indexOf(bit),
      tone,
      this.markTurn * bits.advanceTo(bit),
      this.first.place,
    );
    const middle = bit - REFINED_REACH;
    if (middle < 0) return;
    const surer = this.search(this.second, middle, refinement.offset(bits.estimateOf(middle).offset));
    if (surer >= 0)
      this.framer.take(
        surer,
        this.second.margin,
        this.second.mask,
        bits.endOf(middle - SECOND.depth + 1),
        refinement.coherence > SIGNAL_COHERENCE,
        found,
      );
  }
}

import type { HdlcDiscard } from '../hdlc/bit-stream.js';
import { HdlcDecoder } from '../hdlc/bit-stream.js';
import { BitClock, HALF_WINDOW, WINDOW } from './bit-clock.js';
import { BitTones } from './bit-tones.js';
import { DEPTH, PhaseSearch } from './phase-search.js';
import { MOST_DOUBTS, repair, type Doubt, type Repaired } from './repair.js';
import { ToneSums } from './tone-sums.js';
import type { Tones } from './tones.js';

const FLAG = 0x7e;
/** Samples of one push: the sums keep so many beyond what the search looks back to. */
const MOST_AT_ONCE = 8192;
/** From a tone of one flag to the end of the next: 17 octets, and the longest frame of usual size. */
const SHORTEST_BITS = 17 * 8;
const LONGEST_BITS = 3000;

/**
 * Sequence detection. The tones are one oscillation whose phase never jumps: within a bit it turns by a whole cycle for a mark
 * and by h more for a space (Bell 202: 1000 Hz / 1200 baud = 0.833), so that after each bit it stands in one of six places, and
 * each bit says something of its neighbours. A Viterbi search keeps the likeliest path to each place (Viterbi 1967; Forney
 * 1973), each with its own idea of the phase.
 *
 *   sums of tones ─→ clock: where bits begin (a window ahead) ─→ tones of each bit ─→ offset, phase between the tones,
 *   amplitudes (a window around) ─→ search ─→ bits
 */
export class SequenceDetector {
  private readonly sums: ToneSums;
  private readonly hdlc = new HdlcDecoder();
  private readonly out: (Uint8Array | HdlcDiscard)[] = [];
  private readonly clock: BitClock;
  private readonly bits: BitTones;
  private readonly search: PhaseSearch;
  private readonly past = new TonePast();

  constructor(rateHz: number, tones: Tones) {
    const { baud, markHz, spaceHz } = tones;
    const samplesPerBit = rateHz / baud;
    const needed = (WINDOW + 8) * samplesPerBit + MOST_AT_ONCE;
    this.sums = new ToneSums(rateHz, tones, 2 ** Math.ceil(Math.log2(needed)));
    this.clock = new BitClock(this.sums, samplesPerBit);
    const turnOf = (hz: number): number => (2 * Math.PI * hz) / baud;
    this.bits = new BitTones(turnOf(markHz), turnOf(spaceHz));
    this.search = new PhaseSearch(turnOf(markHz), turnOf(spaceHz));
  }

  /** Tells of each frame and where it ended, in samples since the first. A frame is known a quarter of a second after it. */
  push(samples: Float32Array, count: number, found: Found): void {
    if (count > MOST_AT_ONCE) throw new RangeError(`at most ${MOST_AT_ONCE} samples at once`);
    this.sums.push(samples, count);
    while (this.clock.canStep()) {
      const { from, to } = this.clock.step();
      this.bits.add(this.sums, from, to);
      if (this.bits.count <= HALF_WINDOW) continue;
      const tone = this.search.take(this.bits);
      if (tone >= 0) this.take(tone, found);
    }
  }

  private take(tone: number, found: Found): void {
    const { past, search, out } = this;
    const end = this.bits.endedAt(DEPTH - 1);
    const bit = past.add(tone, search.margin, search.mask);
    this.hdlc.pushBit(bit, out);
    const frame = out.find((item) => item instanceof Uint8Array);
    out.length = 0;
    if (frame) found(frame, end, 0);
    else if (past.endsInFlag()) {
      const mended = past.mended();
      if (mended) found(mended.raw, end, mended.repairs);
    }
    past.passFlag();
  }
}

/** repairs: choices of the search that were turned round. */
export type Found = (raw: Uint8Array, end: number, repairs: number) => void;

/** Tones since the last flag, each with how sure it is. */
class TonePast {
  private readonly tones = new Uint8Array(LONGEST_BITS);
  private readonly margins = new Float64Array(LONGEST_BITS);
  private readonly masks = new Uint8Array(LONGEST_BITS);
  private length = 0;
  private lastTone = 0;
  private lastBits = 0;

  /** Returns the bit: NRZI, no change is a 1. */
  add(tone: number, margin: number, mask: number): number {
    const bit = tone === this.lastTone ? 1 : 0;
    this.lastTone = tone;
    this.lastBits = ((this.lastBits << 1) | bit) & 0xff;
    if (this.length < LONGEST_BITS) {
      this.tones[this.length] = tone;
      this.margins[this.length] = margin;
      this.masks[this.length] = mask;
      this.length++;
    }
    return bit;
  }

  endsInFlag(): boolean {
    return this.lastBits === FLAG;
  }

  /** The tone that ends a flag is the first before the next frame. */
  passFlag(): void {
    if (!this.endsInFlag()) return;
    this.tones[0] = this.lastTone;
    this.length = 1;
  }

  mended(): Repaired | undefined {
    const { length, tones, margins, masks } = this;
    if (length < SHORTEST_BITS || length === LONGEST_BITS) return undefined;
    const doubts: Doubt[] = [];
    for (let at = 1; at < length; at++)
      if (masks[at] !== 0) doubts.push({ at, margin: margins[at] as number, mask: masks[at] as number });
    doubts.sort((a, b) => a.margin - b.margin);
    return repair(tones.subarray(0, length), doubts.slice(0, MOST_DOUBTS));
  }
}

import type { HdlcDiscard } from '../hdlc/bit-stream.js';
import { HdlcDecoder } from '../hdlc/bit-stream.js';
import { BitClock, HALF_WINDOW, WINDOW } from './bit-clock.js';
import { BitTones } from './bit-tones.js';
import { DEPTH, PhaseSearch } from './phase-search.js';
import { ToneSums } from './tone-sums.js';
import type { Tones } from './tones.js';

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
  private readonly samplesPerBit: number;
  private readonly hdlc = new HdlcDecoder();
  private readonly out: (Uint8Array | HdlcDiscard)[] = [];
  private readonly clock: BitClock;
  private readonly bits: BitTones;
  private readonly search: PhaseSearch;
  private level = 0;

  constructor(rateHz: number, tones: Tones) {
    const { baud, markHz, spaceHz } = tones;
    this.samplesPerBit = rateHz / baud;
    const needed = (WINDOW + 8) * this.samplesPerBit;
    this.sums = new ToneSums(rateHz, tones, 2 ** Math.ceil(Math.log2(needed + 8192)));
    this.clock = new BitClock(this.sums, this.samplesPerBit);
    const turnOf = (hz: number): number => (2 * Math.PI * hz) / baud;
    this.bits = new BitTones(turnOf(markHz), turnOf(spaceHz));
    this.search = new PhaseSearch(turnOf(markHz), turnOf(spaceHz));
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
      for (const item of this.out) if (item instanceof Uint8Array) found(item, this.bits.endedAt(DEPTH - 1));
      this.out.length = 0;
    }
  }
}

import { hasGoodFcs, withFcs } from './fcs.js';

/**
 * Frames as bits on the air and back (ISO/IEC 13239; AX.25 v2.2, "Frame structure"): octets go out low bit first, a 0 is
 * stuffed after five 1s, flags 7E stand between frames, seven 1s abort. Bits are 0 or 1, one to an octet of the array.
 */
const FLAG = 0x7e;
/** Two addresses and a control field, and the FCS: what is shorter is no frame of AX.25 v2.2. */
const SHORTEST_OCTETS = 17;
/** As the KISS layer: longer is noise. */
const LONGEST_OCTETS = 4096 + 2;

/** flagsBefore, flagsAfter: at least one each; the bits before NRZI. */
export function frameBits(frame: Uint8Array, flagsBefore = 1, flagsAfter = 1): Uint8Array {
  const octets = withFcs(frame);
  const bits = new Uint8Array(octets.length * 10 + 8 * (flagsBefore + flagsAfter));
  let at = 0;
  const putFlags = (count: number): void => {
    for (let i = 0; i < count * 8; i++) bits[at++] = (FLAG >> (i & 7)) & 1;
  };
  putFlags(flagsBefore);
  let ones = 0;
  for (let i = 0; i < octets.length; i++) {
    const octet = octets[i] as number;
    for (let bit = 0; bit < 8; bit++) {
      const value = (octet >> bit) & 1;
      bits[at++] = value;
      ones = value ? ones + 1 : 0;
      if (ones < 5) continue;
      bits[at++] = 0;
      ones = 0;
    }
  }
  putFlags(flagsAfter);
  return bits.subarray(0, at);
}

/** Why something between two flags was no frame. */
export type HdlcDiscardReason = 'bad FCS' | 'aborted' | 'too long' | 'not whole octets';
/** How many there were of each. */
export type HdlcDiscards = Readonly<Record<HdlcDiscardReason, number>>;
export interface HdlcDiscard {
  readonly discarded: HdlcDiscardReason;
  readonly octets: number;
}

/**
 * Bit machine: push() takes bits cut anywhere and returns the frames with a good FCS (without it), and discards, in order.
 * What is shorter than a frame can be is silence, not a discard: noise between frames makes flags by chance.
 */
export class HdlcDecoder {
  private readonly counts = { 'bad FCS': 0, aborted: 0, 'too long': 0, 'not whole octets': 0 };
  private readonly content = new Uint8Array(LONGEST_OCTETS);
  /** −1: no flag was seen yet, or the frame was given up. */
  private length = -1;
  private octet = 0;
  private bits = 0;
  private ones = 0;

  /** All since the first bit. */
  get discards(): HdlcDiscards {
    return this.counts;
  }

  push(bits: Uint8Array): (Uint8Array | HdlcDiscard)[] {
    const out: (Uint8Array | HdlcDiscard)[] = [];
    for (let i = 0; i < bits.length; i++) this.pushBit(bits[i] as number, out);
    return out;
  }

  /** One bit; what it completes goes into out. */
  pushBit(bit: number, out: (Uint8Array | HdlcDiscard)[]): void {
    if (bit) {
      this.ones++;
      if (this.ones === 7) this.giveUp('aborted', out);
      else if (this.ones < 6) this.keep(1, out);
      return;
    }
    const ones = this.ones;
    this.ones = 0;
    if (ones === 6) this.flag(out);
    else if (ones < 5) this.keep(0, out);
    // After five 1s the 0 was stuffed; after seven it ends an abort.
  }

  private keep(bit: number, out: (Uint8Array | HdlcDiscard)[]): void {
    if (this.length < 0) return;
    this.octet |= bit << this.bits;
    if (++this.bits < 8) return;
    if (this.length === LONGEST_OCTETS) return this.giveUp('too long', out);
    this.content[this.length++] = this.octet;
    this.octet = 0;
    this.bits = 0;
  }

  /** The flag's own 0 and five 1s stand in the unfinished octet: six bits where the frame was whole octets. */
  private flag(out: (Uint8Array | HdlcDiscard)[]): void {
    const { length, bits } = this;
    this.begin();
    if (length < SHORTEST_OCTETS) return;
    if (bits !== 6) this.discard('not whole octets', length, out);
    else if (!hasGoodFcs(this.content.subarray(0, length))) this.discard('bad FCS', length, out);
    else out.push(this.content.slice(0, length - 2));
  }

  private giveUp(reason: HdlcDiscardReason, out: (Uint8Array | HdlcDiscard)[]): void {
    if (this.length >= SHORTEST_OCTETS) this.discard(reason, this.length, out);
    this.begin();
    this.length = -1;
  }

  private discard(reason: HdlcDiscardReason, octets: number, out: (Uint8Array | HdlcDiscard)[]): void {
    this.counts[reason]++;
    out.push({ discarded: reason, octets });
  }

  private begin(): void {
    this.length = 0;
    this.octet = 0;
    this.bits = 0;
  }
}

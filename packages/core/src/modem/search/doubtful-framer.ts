import { HdlcDecoder, type HdlcDiscard, type HdlcDiscards } from '../../hdlc/bit-stream.js';
import type { LineDecoder } from '../../hdlc/line-code.js';
import { repair, type Doubt, type Repaired } from './repair.js';

const FLAG = 0x7e;
/** From a flag to the end of the next: 17 octets, and the longest frame of usual size. */
const SHORTEST_BITS = 17 * 8;
const LONGEST_BITS = 3000;

/** end: in samples since the first. repairs: choices that were turned round. */
export type Found = (raw: Uint8Array, end: number, repairs: number) => void;

/** Levels to frames, each level with how sure it is: a frame with a bad FCS is repaired where that is possible. */
export class DoubtfulFramer {
  private readonly hdlc = new HdlcDecoder();
  private readonly out: (Uint8Array | HdlcDiscard)[] = [];
  private readonly line: LineDecoder;
  /** Since the last flag. */
  private readonly levels = new Uint8Array(LONGEST_BITS);
  private readonly margins = new Float64Array(LONGEST_BITS);
  private readonly masks = new Uint8Array(LONGEST_BITS);
  private length = 0;
  private lastBits = 0;

  constructor(private readonly lineOf: () => LineDecoder) {
    this.line = lineOf();
  }

  /** What was no frame as it came; some of it was repaired. */
  get discards(): HdlcDiscards {
    return this.hdlc.discards;
  }

  /** margin and mask: as a Doubt of this level; mask 0 is none. mends: whether there is a signal at all. */
  take(level: number, margin: number, mask: number, end: number, mends: boolean, found: Found): void {
    const bit = this.add(level, margin, mask);
    this.hdlc.pushBit(bit, this.out);
    const frame = this.out.find((item) => item instanceof Uint8Array);
    this.out.length = 0;
    if (frame) found(frame, end, 0);
    if (this.lastBits !== FLAG) return;
    const mended = frame || !mends ? undefined : this.mended();
    if (mended) found(mended.raw, end, mended.repairs);
    this.passFlag();
  }

  private add(level: number, margin: number, mask: number): number {
    const bit = this.line.bit(level);
    this.lastBits = ((this.lastBits << 1) | bit) & 0xff;
    if (this.length < LONGEST_BITS) {
      this.levels[this.length] = level;
      this.margins[this.length] = margin;
      this.masks[this.length] = mask;
      this.length++;
    }
    return bit;
  }

  /** The last levels of a flag tell what the first bits after it are. */
  private passFlag(): void {
    const { history } = this.line;
    const from = Math.max(0, this.length - history);
    this.levels.copyWithin(0, from, this.length);
    this.masks.fill(0, 0, history);
    this.length -= from;
  }

  private mended(): Repaired | undefined {
    const { length, levels, margins, masks } = this;
    const { history } = this.line;
    if (length < SHORTEST_BITS + history || length === LONGEST_BITS) return undefined;
    const doubts: Doubt[] = [];
    for (let at = history; at < length; at++)
      if (masks[at] !== 0) doubts.push({ at, margin: margins[at] as number, mask: masks[at] as number });
    doubts.sort((a, b) => a.margin - b.margin);
    return repair(levels.subarray(0, length), doubts, this.lineOf);
  }
}

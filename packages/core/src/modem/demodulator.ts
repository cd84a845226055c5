import type { HdlcDiscards } from '../hdlc/bit-stream.js';
import { clean } from './band.js';
import { BLOCK, branchesOf, type Branch, type DecoderName } from './branches.js';
import type { FrameMeasures } from './measuring/frame-gauge.js';
import { BELL_202, checkRate, type Modulation } from './tones.js';

export { DECODERS, type DecoderName } from './branches.js';

/** atMs: since the first sample. repairs: choices that were turned round until the FCS was good, 0 to 2. */
export interface DemodulatedFrame extends Partial<FrameMeasures> {
  readonly atMs: number;
  readonly raw: Uint8Array;
  readonly repairs: number;
  readonly levelDbfs: number;
}

/** The same frame from two of them within this time is one frame: they differ by some bits. */
const SAME_WITHIN_MS = 40;
/** A repaired frame waits so long for one that needed no repair: both ends are the same, or nearly. */
const HOLD_BITS = 16;

interface Candidate {
  /** In milliseconds since the first sample. */
  readonly atMs: number;
  readonly end: number;
  readonly raw: Uint8Array;
  readonly repairs: number;
}

/** Sound in, frames out: blocks of any length, at any rate; what comes out does not depend on how the sound is cut. */
export class Demodulator {
  private readonly branches: readonly Branch[];
  private readonly main: Branch;
  private readonly cleaned = new Float32Array(BLOCK);
  private waiting: Candidate[] = [];
  private recent: Candidate[] = [];
  private readonly msPerBit: number;
  private taken = 0;

  constructor(
    private readonly rateHz: number,
    decoder: DecoderName = 'default',
    modulation: Modulation = BELL_202,
  ) {
    checkRate(rateHz, modulation);
    this.msPerBit = 1000 / modulation.baud;
    this.branches = branchesOf(rateHz, decoder, modulation);
    this.main = this.branches[0] as Branch;
  }

  push(samples: Float32Array): DemodulatedFrame[] {
    const frames: DemodulatedFrame[] = [];
    for (let at = 0; at < samples.length; at += BLOCK) this.block(samples.subarray(at, at + BLOCK), frames);
    return frames;
  }

  /** What the first branch found between flags that was no frame, by reason. Others may have read some of it. */
  get discards(): HdlcDiscards {
    return this.main.discards;
  }

  /** How surely a signal is there now: 1 clean, about 0 noise. */
  get carrier(): number {
    return this.main.steadiness;
  }

  /** Data carrier detect: a signal of which frames may be read. */
  get hasCarrier(): boolean {
    return this.carrier > this.main.carrierAbove;
  }

  private block(samples: Float32Array, frames: DemodulatedFrame[]): void {
    const cleaned = this.cleaned.subarray(0, samples.length);
    clean(samples, cleaned);
    this.taken += samples.length;
    for (const branch of this.branches)
      branch.push(cleaned, (raw, end, repairs) =>
        this.waiting.push({ raw, end, repairs, atMs: (1000 * end) / branch.rateHz }),
      );
    if (this.waiting.length > 0) this.report(frames);
  }

  /** In the order of their ends, each once; of two that end together the one without repair. */
  private report(frames: DemodulatedFrame[]): void {
    const nowMs = (1000 * this.taken) / this.rateHz;
    const holdMs = HOLD_BITS * this.msPerBit;
    const all = this.waiting.sort((a, b) => a.atMs - b.atMs);
    this.waiting = [];
    for (const one of all) {
      const { atMs, raw, repairs, end } = one;
      const isHeld = repairs > 0 && nowMs < atMs + this.main.lateBits * this.msPerBit + holdMs;
      const isBeaten = (other: Candidate): boolean =>
        other !== one &&
        Math.abs(other.atMs - atMs) < holdMs &&
        (other.repairs < repairs || (other.repairs === repairs && this.recent.includes(other)));
      this.recent = this.recent.filter((other) => atMs - other.atMs <= SAME_WITHIN_MS);
      if (this.recent.some((other) => isSame(other.raw, raw))) continue;
      if (repairs > 0 && [...all, ...this.recent].some(isBeaten)) continue;
      if (isHeld) {
        this.waiting.push(one);
        continue;
      }
      this.recent.push(one);
      frames.push({ atMs, raw, repairs, ...this.main.measure(end, raw) });
    }
  }
}

function isSame(a: Uint8Array, b: Uint8Array): boolean {
  return a.length === b.length && a.every((octet, i) => octet === b[i]);
}

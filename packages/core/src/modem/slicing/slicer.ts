import { HdlcDecoder, type HdlcDiscard, type HdlcDiscards } from '../../hdlc/bit-stream.js';
import type { LineDecoder } from '../../hdlc/line-code.js';

/** Looked up once: called for each change of level. */
const { cos } = Math;

/** How far a change of level pulls the bit clock: a compromise of lock-in and steadiness (found by trial). */
const PULL = 0.15;
/** Changes over which it is averaged how well they keep to the clock. */
const AVERAGED_CHANGES = 16;

/** What is done with each level, and how far it was from the other (an amplitude). */
export type Decide = (level: number, margin: number, at: number) => void;

/** A level for each bit, with a bit clock of its own: a change of level pulls the clock so that bits are sampled half a bit later. */
export class Slicer {
  /** How well changes keep to the clock: 1 for a clean signal, about 0 for noise. */
  steadiness = 0;
  private readonly step: number;
  private phase = 0;
  private before = 0;

  constructor(samplesPerBit: number) {
    this.step = 1 / samplesPerBit;
  }

  /** values: above 0 is the level 1. Tells of each bit, and at which sample it was decided. */
  push(values: Float32Array, count: number, decide: Decide): void {
    const { step } = this;
    let { phase, before } = this;
    for (let i = 0; i < count; i++) {
      const now = values[i] as number;
      phase += step;
      if (now > 0 !== before > 0) {
        // The change happened between the two samples; it should be at 0.5.
        const error = phase - step * (now / (now - before)) - 0.5;
        phase -= PULL * error;
        this.steadiness += (cos(2 * Math.PI * error) - this.steadiness) / AVERAGED_CHANGES;
      }
      if (phase >= 1) {
        phase -= 1;
        // The value at the sampling point, between the two samples.
        const share = phase / step;
        const value = share < 1 ? now + (before - now) * share : before;
        decide(value > 0 ? 1 : 0, value > 0 ? value : -value, i);
      }
      before = now;
    }
    this.phase = phase;
    this.before = before;
  }
}

/** Levels to frames. */
export class Framer {
  private readonly hdlc = new HdlcDecoder();
  private readonly out: (Uint8Array | HdlcDiscard)[] = [];

  constructor(private readonly line: LineDecoder) {}

  get discards(): HdlcDiscards {
    return this.hdlc.discards;
  }

  /** One level; the frame that it completes. */
  take(level: number): Uint8Array | undefined {
    this.hdlc.pushBit(this.line.bit(level), this.out);
    if (this.out.length === 0) return undefined;
    const frame = this.out.find((item) => item instanceof Uint8Array);
    this.out.length = 0;
    return frame;
  }
}

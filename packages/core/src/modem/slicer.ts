import { HdlcDecoder, type HdlcDiscard } from '../hdlc/bit-stream.js';

/** How far a change of tone pulls the bit clock: a compromise of lock-in and steadiness (found by trial). */
const PULL = 0.15;

/**
 * One decision between the tones, with a bit clock of its own: a change of tone pulls the clock so that bits are sampled half
 * a bit later. gain: by how much space is raised before the comparison.
 */
export class Slicer {
  private readonly step: number;
  private readonly hdlc = new HdlcDecoder();
  private readonly out: (Uint8Array | HdlcDiscard)[] = [];
  private phase = 0;
  private before = 0;
  private level = 0;

  constructor(
    samplesPerBit: number,
    private readonly gain: number,
  ) {
    this.step = 1 / samplesPerBit;
  }

  /** Tells of each frame that these samples complete, and by which of them. */
  push(
    mark: Float32Array,
    space: Float32Array,
    count: number,
    found: (raw: Uint8Array, at: number) => void,
  ): void {
    const { step, gain } = this;
    let { phase, before } = this;
    for (let i = 0; i < count; i++) {
      const now = (mark[i] as number) - gain * (space[i] as number);
      phase += step;
      if (now > 0 !== before > 0) {
        // The change happened between the two samples; it should be at 0.5.
        const since = step * (now / (now - before));
        phase -= PULL * (phase - since - 0.5);
      }
      if (phase >= 1) {
        phase -= 1;
        // The value at the sampling point, between the two samples.
        const share = phase / step;
        this.decide(share < 1 ? now + (before - now) * share : before);
        for (const item of this.out) if (item instanceof Uint8Array) found(item, i);
        this.out.length = 0;
      }
      before = now;
    }
    this.phase = phase;
    this.before = before;
  }

  /** NRZI: no change is a 1. */
  private decide(value: number): void {
    const level = value > 0 ? 1 : 0;
    this.hdlc.pushBit(level === this.level ? 1 : 0, this.out);
    this.level = level;
  }
}

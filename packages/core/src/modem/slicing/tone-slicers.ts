import { NrziLine } from '../../hdlc/line-code.js';
import type { Found } from '../search/doubtful-framer.js';
import type { Tones } from '../tones.js';
import { Envelopes } from './envelopes.js';
import type { HdlcDiscards } from '../../hdlc/bit-stream.js';
import { Framer, Slicer } from './slicer.js';

/** Several slicers on the same envelopes, each with space raised by another gain before the comparison. */
export class ToneSlicers {
  private readonly envelopes: Envelopes;
  private readonly slicers: readonly {
    readonly slicer: Slicer;
    readonly framer: Framer;
    readonly gain: number;
  }[];
  private values = new Float32Array(0);
  private taken = 0;

  constructor(rateHz: number, tones: Tones, gainsDb: readonly number[]) {
    this.envelopes = new Envelopes(rateHz, tones);
    this.slicers = gainsDb.map((db) => ({
      slicer: new Slicer(rateHz / tones.baud),
      framer: new Framer(new NrziLine()),
      gain: 10 ** (-db / 20),
    }));
  }

  push(samples: Float32Array, count: number, found: Found): void {
    this.envelopes.push(samples, count);
    const { mark, space } = this.envelopes;
    if (this.values.length < count) this.values = new Float32Array(count);
    const { values } = this;
    for (const { slicer, framer, gain } of this.slicers) {
      for (let i = 0; i < count; i++) values[i] = (mark[i] as number) - gain * (space[i] as number);
      slicer.push(values, count, (level, _margin, at) => {
        const frame = framer.take(level);
        if (frame) found(frame, this.taken + at + 1, 0);
      });
    }
    this.taken += count;
  }

  /** Of the slicer in the middle, as the discards are: each of the others meets the same frames. */
  get steadiness(): number {
    return this.middle.slicer.steadiness;
  }

  get discards(): HdlcDiscards {
    return this.middle.framer.discards;
  }

  private get middle(): { slicer: Slicer; framer: Framer } {
    return this.slicers[this.slicers.length >> 1] as { slicer: Slicer; framer: Framer };
  }
}

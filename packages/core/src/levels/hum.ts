import { Decimator } from '../modem/band.js';
import { rmsDbfs } from '../modem/measuring/level.js';

/** Hum of the mains over one second. dbfs: of its harmonics together. */
export interface Hum {
  readonly mainsHz: 50 | 60;
  readonly dbfs: number;
}

/** The mains, and its second and third harmonic: rectifiers make twice, transformers three times the frequency. */
const HARMONICS = [1, 2, 3] as const;
/** Beside the mains' own lines, far enough that a second tells them apart. */
const BESIDE_HZ = [-8, -6, 6, 8] as const;
/** Over the lines beside it: noise alone reaches 8 dB in one of a hundred seconds. */
const STANDS_OUT = 10;
const LEAST_DBFS = -60;
const SECOND = 1;

class Line {
  private readonly factor: number;
  private one = 0;
  private two = 0;

  constructor(
    readonly hz: number,
    rateHz: number,
  ) {
    this.factor = 2 * Math.cos((2 * Math.PI * hz) / rateHz);
  }

  push(sample: number): void {
    const next = sample + this.factor * this.one - this.two;
    this.two = this.one;
    this.one = next;
  }

  /** Mean square of the line, over so many samples behind a von Hann window; begins anew. */
  power(samples: number): number {
    const energy = this.one * this.one + this.two * this.two - this.factor * this.one * this.two;
    this.one = 0;
    this.two = 0;
    // The window halves the amplitude: A · N/4 is left of a sine, whose mean square is A²/2.
    return (8 * Math.max(0, energy)) / (samples * samples);
  }
}

/**
 * Hum of 50 or 60 Hz, a second at a time (Goertzel 1958). One line alone may be a tone that a repeater sends below the voice:
 * hum is told by two of its lines, the first and one of the others.
 */
export class HumMeter {
  private readonly lines: readonly {
    readonly mainsHz: 50 | 60;
    readonly own: Line;
    readonly beside: readonly Line[];
  }[];
  private readonly decimator: Decimator;
  private readonly samples: number;
  private narrow = new Float32Array(0);
  private count = 0;
  private found: Hum[] = [];

  constructor(rateHz: number) {
    this.decimator = new Decimator(rateHz);
    const working = this.decimator.rateHz;
    this.samples = Math.round(working * SECOND);
    this.lines = ([50, 60] as const).flatMap((mainsHz) =>
      HARMONICS.map((times) => ({
        mainsHz,
        own: new Line(times * mainsHz, working),
        beside: BESIDE_HZ.map((beside) => new Line(times * mainsHz + beside, working)),
      })),
    );
  }

  push(samples: Float32Array): void {
    if (this.narrow.length < samples.length + 1) this.narrow = new Float32Array(samples.length + 1);
    const count = this.decimator.push(samples, this.narrow);
    for (let i = 0; i < count; i++) {
      const given = this.narrow[i] as number;
      const window = 0.5 - 0.5 * Math.cos((2 * Math.PI * this.count) / this.samples);
      const sample = given - given === 0 ? given * window : 0;
      for (const { own, beside } of this.lines) {
        own.push(sample);
        for (const line of beside) line.push(sample);
      }
      if (++this.count === this.samples) this.endSecond();
    }
  }

  /** What was found since it was last taken, at most one for each second. */
  take(): Hum[] {
    const { found } = this;
    this.found = [];
    return found;
  }

  private endSecond(): void {
    this.count = 0;
    const read = this.lines.map(({ mainsHz, own, beside }) => {
      const noise = beside.reduce((sum, line) => sum + line.power(this.samples), 0) / beside.length;
      const power = own.power(this.samples);
      return {
        mainsHz,
        power,
        isOut: power > noise * 10 ** (STANDS_OUT / 10) && rmsDbfs(power) > LEAST_DBFS,
      };
    });
    for (const mainsHz of [50, 60] as const) {
      const [first, ...others] = read.filter((line) => line.mainsHz === mainsHz);
      if (!first?.isOut || !others.some(({ isOut }) => isOut)) continue;
      const power = [first, ...others].reduce((sum, line) => sum + (line.isOut ? line.power : 0), 0);
      this.found.push({ mainsHz, dbfs: rmsDbfs(power) });
    }
  }
}

import type { ToneSums } from './tone-sums.js';

/** Looked up once: the sample loops call them a million times a second. */
const { cos, sin, abs, atan2 } = Math;

/** Bits on either side over which clock and tones are estimated: a long window is steadier, a short one follows faster. */
export const HALF_WINDOW = 128;
export const WINDOW = 2 * HALF_WINDOW;
/** Phases of the bit clock that are tried. */
const CLOCK_PHASES = 8;
/** The clock follows its estimate by so much of a bit at most: 200 ppm are 0.0002. */
const CLOCK_PULL = 0.02;

/** Where bits begin: that phase of the clock at which the tones of the window stand out most, followed slowly. */
export class BitClock {
  private readonly strength = new Float64Array(CLOCK_PHASES);
  private readonly kept = new Float64Array(CLOCK_PHASES * WINDOW);
  private readonly tones = new Float64Array(4);
  /** Bits of the grid that the strengths were taken of. */
  private gridBit = 0;
  private next = 0;

  constructor(
    private readonly sums: ToneSums,
    private readonly samplesPerBit: number,
  ) {}

  /** The strengths must reach half a window beyond the bit. */
  canStep(): boolean {
    const wanted = this.next / this.samplesPerBit + HALF_WINDOW;
    while (this.gridBit < wanted) {
      if ((this.gridBit + 2) * this.samplesPerBit > this.sums.taken) return false;
      this.grade();
    }
    return true;
  }

  step(): { from: number; to: number } {
    const from = this.next;
    const to = from + this.samplesPerBit;
    const error = this.best() - from / this.samplesPerBit;
    const nearest = error - Math.round(error);
    this.next = to + Math.max(-CLOCK_PULL, Math.min(CLOCK_PULL, nearest)) * this.samplesPerBit;
    return { from, to };
  }

  /** One bit of the grid more, at each phase: how far one tone stands above the other. */
  private grade(): void {
    const { tones, strength, kept, samplesPerBit } = this;
    const slot = (this.gridBit % WINDOW) * CLOCK_PHASES;
    for (let phase = 0; phase < CLOCK_PHASES; phase++) {
      const from = (this.gridBit + phase / CLOCK_PHASES) * samplesPerBit;
      this.sums.between(from, from + samplesPerBit, tones);
      const mark = (tones[0] as number) ** 2 + (tones[1] as number) ** 2;
      const space = (tones[2] as number) ** 2 + (tones[3] as number) ** 2;
      const graded = abs(mark - space);
      strength[phase] = (strength[phase] as number) + graded - (kept[slot + phase] as number);
      kept[slot + phase] = graded;
    }
    this.gridBit++;
  }

  /** In bits, 0 to 1: the phase of the first harmonic of the strengths, which is their top. */
  private best(): number {
    let re = 0;
    let im = 0;
    for (let phase = 0; phase < CLOCK_PHASES; phase++) {
      const angle = (2 * Math.PI * phase) / CLOCK_PHASES;
      re += (this.strength[phase] as number) * cos(angle);
      im += (this.strength[phase] as number) * sin(angle);
    }
    return atan2(im, re) / (2 * Math.PI);
  }
}

import type { ToneSums } from './tone-sums.js';

/** Looked up once: called for each bit. */
const { cos, sin, abs, atan2, max, min, round } = Math;

/** Bits on either side over which the clock is estimated: a long window is steadier, a short one follows faster. */
export const CLOCK_REACH = 96;
const WINDOW = 2 * CLOCK_REACH;
/** Phases of the bit clock that are tried. */
const PHASES = 8;
/** The clock follows its estimate by so much of a bit at most: 200 ppm are 0.0002. */
const PULL = 0.02;

/** Where bits begin: that phase of the clock at which the tones of the window stand out most, followed slowly. */
export class BitClock {
  private readonly strength = new Float64Array(PHASES);
  private readonly kept = new Float64Array(PHASES * WINDOW);
  /** The sums of each phase where its last bit ended, and where the present one does. */
  private before = new Float64Array(4 * PHASES);
  private now = new Float64Array(4 * PHASES);
  /** Bits of the grid that the strengths were taken of. */
  private gridBit = 0;
  private next = 0;

  constructor(
    private readonly sums: ToneSums,
    private readonly samplesPerBit: number,
  ) {}

  /** The strengths must reach half a window beyond the bit. */
  canStep(): boolean {
    const wanted = this.next / this.samplesPerBit + CLOCK_REACH;
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
    const nearest = error - round(error);
    this.next = to + max(-PULL, min(PULL, nearest)) * this.samplesPerBit;
    return { from, to };
  }

  /** One bit of the grid more, at each phase: how far one tone stands above the other. */
  private grade(): void {
    const { before, now, strength, kept, samplesPerBit } = this;
    const slot = (this.gridBit % WINDOW) * PHASES;
    for (let phase = 0; phase < PHASES; phase++) {
      const at = 4 * phase;
      this.sums.at((this.gridBit + 1 + phase / PHASES) * samplesPerBit, now, at);
      const markRe = (now[at] as number) - (before[at] as number);
      const markIm = (now[at + 1] as number) - (before[at + 1] as number);
      const spaceRe = (now[at + 2] as number) - (before[at + 2] as number);
      const spaceIm = (now[at + 3] as number) - (before[at + 3] as number);
      const graded = abs(markRe * markRe + markIm * markIm - spaceRe * spaceRe - spaceIm * spaceIm);
      strength[phase] = (strength[phase] as number) + graded - (kept[slot + phase] as number);
      kept[slot + phase] = graded;
    }
    [this.before, this.now] = [now, before];
    this.gridBit++;
  }

  /** In bits: the phase of the first harmonic of the strengths, which is their top. */
  private best(): number {
    let re = 0;
    let im = 0;
    for (let phase = 0; phase < PHASES; phase++) {
      re += (this.strength[phase] as number) * (COS[phase] as number);
      im += (this.strength[phase] as number) * (SIN[phase] as number);
    }
    return atan2(im, re) / (2 * Math.PI);
  }
}

const COS = Float64Array.from({ length: PHASES }, (_, phase) => cos((2 * Math.PI * phase) / PHASES));
const SIN = Float64Array.from({ length: PHASES }, (_, phase) => sin((2 * Math.PI * phase) / PHASES));

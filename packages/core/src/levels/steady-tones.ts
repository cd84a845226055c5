import { dbfsOf, type SpectrumShape } from './spectrum.js';

/** A tone that stays on: all the time, or as long as packets are heard. */
export interface SteadyTone {
  readonly hz: number;
  readonly dbfs: number;
  readonly when: 'always' | 'with packets';
}

/** Over the lines beside it. Noise alone stands out so far in one line of some ten thousand. */
const OUT_DB = 12;
const BESIDE = { from: 3, to: 10 } as const;
/** Of the looks; and so many looks at least. */
const STAYS = 0.8;
const LEAST_LOOKS = 10;
/** Tones below the voice are sent on purpose. */
const FROM_HZ = 300;
/** Packets of 1200 baud themselves fill the band between. */
const DATA_HZ = { from: 600, to: 2900 } as const;

/** Counts for each line of the spectrum how often it stands out. */
export class OutstandingLines {
  private readonly out: Uint32Array;
  private readonly level: Float64Array;
  private looks = 0;

  constructor(private readonly shape: SpectrumShape) {
    this.out = new Uint32Array(shape.lines);
    this.level = new Float64Array(shape.lines);
  }

  take(spectrum: Uint8Array): void {
    this.looks++;
    for (let i = Math.ceil(FROM_HZ / this.shape.binHz); i < spectrum.length; i++)
      if (this.isOut(spectrum, i)) {
        (this.out[i] as number)++;
        this.level[i] = (this.level[i] as number) + (spectrum[i] as number);
      }
  }

  /** Whether there were looks enough to say that something is not there. */
  get hasLooked(): boolean {
    return this.looks >= LEAST_LOOKS;
  }

  /** Each tone once, the loudest first. */
  steady(): Omit<SteadyTone, 'when'>[] {
    const found: Omit<SteadyTone, 'when'>[] = [];
    const { binHz } = this.shape;
    for (let i = 0; i < this.out.length; i++) {
      if (!this.hasLooked || this.near(i) < STAYS * this.looks || !this.isTop(i)) continue;
      found.push({ hz: i * binHz, dbfs: dbfsOf((this.level[i] as number) / (this.out[i] as number)) });
    }
    return found.sort((a, b) => b.dbfs - a.dbfs);
  }

  steadyBesideData(): Omit<SteadyTone, 'when'>[] {
    return this.steady().filter(({ hz }) => hz < DATA_HZ.from || hz > DATA_HZ.to);
  }

  /** A tone between two lines stands now in the one, now in the other. */
  private near(i: number): number {
    return (this.out[i - 1] ?? 0) + (this.out[i] as number) + (this.out[i + 1] ?? 0);
  }

  private isTop(i: number): boolean {
    const own = this.out[i] as number;
    return own > 0 && own > (this.out[i - 1] ?? 0) && own >= (this.out[i + 1] ?? 0);
  }

  /** The highest of its neighbours, and well over what lies further beside it on both sides. */
  private isOut(spectrum: Uint8Array, i: number): boolean {
    const own = spectrum[i] as number;
    if (own < (spectrum[i - 1] ?? 0) || own < (spectrum[i + 1] ?? 0)) return false;
    for (let away = BESIDE.from; away <= BESIDE.to; away++)
      if (own - (spectrum[i - away] ?? 0) < OUT_DB || own - (spectrum[i + away] ?? 0) < OUT_DB) return false;
    return own > 0;
  }
}

import { rmsDbfs } from './level.js';

/** Looked up once: the sample loops call them a million times a second. */
const { abs, log10, max, min } = Math;

/**
 * The sound as it comes in. RMS: a full-scale sine is 0 dBFS (AES17); peak: full scale is 0 dBFS. offset: DC, as a share of full
 * scale. clippedShare: of the samples, those in a row at the highest value. noiseFloorDbfs: RMS of the quietest twentieth of a
 * second in the last ten seconds.
 */
export interface SoundMeasures {
  readonly rmsDbfs: number;
  readonly peakDbfs: number;
  readonly offset: number;
  readonly clippedShare: number;
  readonly noiseFloorDbfs: number;
}

const STRETCH_MS = 50;
const STRETCHES = 200;
/** So many samples in a row at one extreme: a sine touches its crest once. */
const CLIPPED_IN_ROW = 3;
/** Below, equal samples are silence or a quiet sound in coarse steps. */
const QUIETEST_CLIPPED = 0.1;

/** Measures since it was last read; the noise floor over ten seconds. */
export class SoundMeter {
  private readonly stretch: number;
  private readonly floors: Float64Array;
  private floorCount = 0;
  private inStretch = 0;
  private stretchSum = 0;
  private stretchSquares = 0;
  private count = 0;
  private sum = 0;
  private squares = 0;
  private peak = 0;
  private clipped = 0;
  private last = 0;
  private inRow = 0;

  constructor(rateHz: number) {
    this.stretch = Math.round((STRETCH_MS * rateHz) / 1000);
    this.floors = new Float64Array(STRETCHES);
  }

  push(samples: Float32Array): void {
    for (let i = 0; i < samples.length; i++) {
      const given = samples[i] as number;
      const sample = given - given === 0 ? given : 0;
      this.sum += sample;
      this.squares += sample * sample;
      this.stretchSum += sample;
      this.stretchSquares += sample * sample;
      const size = abs(sample);
      if (size > this.peak) this.peak = size;
      // The same value again and again, far out, is a flat top.
      if (sample === this.last && size > QUIETEST_CLIPPED) this.row(++this.inRow);
      else this.inRow = 1;
      this.last = sample;
      if (++this.inStretch === this.stretch) this.endStretch();
    }
    this.count += samples.length;
  }

  private row(length: number): void {
    if (length === CLIPPED_IN_ROW) this.clipped += CLIPPED_IN_ROW;
    else if (length > CLIPPED_IN_ROW) this.clipped++;
  }

  private endStretch(): void {
    const mean = this.stretchSum / this.stretch;
    this.floors[this.floorCount++ % STRETCHES] = max(0, this.stretchSquares / this.stretch - mean * mean);
    this.inStretch = 0;
    this.stretchSum = 0;
    this.stretchSquares = 0;
  }

  /** undefined if nothing came since. The offset is not part of the RMS. */
  read(): SoundMeasures | undefined {
    const { count } = this;
    if (count === 0) return undefined;
    const offset = this.sum / count;
    const measures = {
      rmsDbfs: rmsDbfs(max(0, this.squares / count - offset * offset)),
      peakDbfs: 20 * log10(this.peak + Number.MIN_VALUE),
      offset,
      clippedShare: this.clipped / count,
      noiseFloorDbfs: rmsDbfs(this.quietest()),
    };
    this.count = 0;
    this.sum = 0;
    this.squares = 0;
    this.peak = 0;
    this.clipped = 0;
    return measures;
  }

  private quietest(): number {
    const filled = this.floors.subarray(0, min(this.floorCount, STRETCHES));
    return filled.length === 0 ? this.squares / this.count : filled.reduce((a, b) => min(a, b));
  }
}

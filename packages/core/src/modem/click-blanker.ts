/** Looked up once: the sample loops call them a million times a second. */
const { abs, exp, max, min, round } = Math;

/** Beyond so many times the mean of the magnitudes is a click: a sine of amplitude A has the mean 0.64 A, so 1.65 A. */
const CLICK_OVER_MEAN = 2.6;
/** What is larger than so many means counts as this in the mean, so that clicks do not raise what they are measured by. */
const COUNTED_OVER_MEAN = 2;
/** Sound that is so many times louder than the mean for some milliseconds is no click: a station has begun after silence. */
const BEGUN_OVER_MEAN = 2;
const QUICK_MS = 4;
/** As long as a click through audio of 5 kHz stands out, on either side. */
const CLICK_MS = 0.1;
/** Means are taken over about so long: 30 bits of 1200 baud. */
const MEAN_MS = 25;
/** What is slower is no sound of a modem: an offset, and most of the hum. */
const LOWEST_HZ = 60;

/**
 * Takes clicks of an FM receiver out of flat sound: below threshold the noise turns the carrier's phase by a whole cycle (Rice
 * 1963), a pulse far above the tones and a tenth of a bit long. Silence in its place spoils a tenth of the bit, the click all
 * of it. Works at the full rate, before any filter makes the pulse longer. Sound comes out late by `delay` samples.
 */
export class ClickBlanker {
  readonly delay: number;
  private readonly line: Float32Array;
  private at = 0;
  private readonly forget: number;
  private readonly slowly: number;
  private readonly quickly: number;
  private mean = 0;
  private quick = 0;
  private offset = 0;
  /** Samples yet to be blanked. */
  private left = 0;

  constructor(rateHz: number) {
    this.delay = max(1, round((CLICK_MS * rateHz) / 1000));
    this.line = new Float32Array(this.delay);
    this.forget = 1 - exp(-1000 / (MEAN_MS * rateHz));
    this.quickly = 1 - exp(-1000 / (QUICK_MS * rateHz));
    this.slowly = 1 - exp((-2 * Math.PI * LOWEST_HZ) / rateHz);
  }

  /** Into out, which is as long. */
  push(samples: Float32Array, out: Float32Array): void {
    const { line, delay, forget, quickly, slowly } = this;
    let { at, mean, quick, offset, left } = this;
    for (let i = 0; i < samples.length; i++) {
      offset += slowly * ((samples[i] as number) - offset);
      const sample = (samples[i] as number) - offset;
      const size = abs(sample);
      mean += forget * (min(size, COUNTED_OVER_MEAN * mean) - mean);
      quick += quickly * (size - quick);
      if (quick > BEGUN_OVER_MEAN * mean) mean = quick;
      if (size > CLICK_OVER_MEAN * mean) left = 2 * delay + 1;
      const before = line[at] as number;
      line[at] = sample;
      at = at + 1 === delay ? 0 : at + 1;
      out[i] = left > 0 ? 0 : before;
      left--;
    }
    this.at = at;
    this.mean = mean;
    this.quick = quick;
    this.offset = offset;
    this.left = max(0, left);
  }
}

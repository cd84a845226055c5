import { lowPass } from '../band.js';
import { Emphasis } from '../emphasis.js';
import { gaussian } from './noise.js';

/** Looked up once: the sample loops call them a million times a second. */
const { cos, sin, sqrt, atan2 } = Math;

/** Taps of the IF and of the audio filter, so that their edges are a few hundred hertz wide. */
const IF_TAPS = 129;
const AUDIO_TAPS = 65;
/** A receiver passes voice, and data somewhat beyond. */
const AUDIO_EDGE_HZ = 5000;

/**
 * rateHz: of the sound, at least three times the IF bandwidth. cnrDb: carrier over noise in the IF bandwidth; Infinity is none.
 * peakDeviationHz: of a sample of 1.
 */
export interface FmChannelOptions {
  readonly rateHz: number;
  readonly cnrDb: number;
  readonly peakDeviationHz?: number;
  readonly ifBandwidthHz?: number;
  readonly deEmphasis: boolean;
  readonly dice: () => number;
}

/**
 * From the sound into a transmitter to that out of a receiver: frequency modulation, white noise, IF filter, discriminator,
 * audio filter. Below threshold the noise turns the vector of the carrier round the origin: clicks (Rice 1963). Blocks of any
 * length; the sound comes out late by `delay` samples.
 */
export class FmChannel {
  readonly delay = (IF_TAPS - 1) / 2 + (AUDIO_TAPS - 1) / 2;
  private readonly re: Fir;
  private readonly im: Fir;
  private readonly audio: Fir;
  private readonly deEmphasis: Emphasis | undefined;
  private readonly deviation: number;
  private readonly roll: () => number;
  private readonly step: number;
  private readonly scale: number;
  private phase = 0;
  private lastRe = 1;
  private lastIm = 0;

  constructor({
    rateHz,
    cnrDb,
    peakDeviationHz = 3000,
    ifBandwidthHz = 15_000,
    deEmphasis,
    dice,
  }: FmChannelOptions) {
    if (!(rateHz >= 3 * ifBandwidthHz)) throw new RangeError('the rate holds three times the IF bandwidth');
    const ifTaps = lowPass(ifBandwidthHz / 2 / rateHz, IF_TAPS);
    this.re = new Fir(ifTaps);
    this.im = new Fir(ifTaps);
    this.audio = new Fir(lowPass(AUDIO_EDGE_HZ / rateHz, AUDIO_TAPS));
    this.deEmphasis = deEmphasis ? new Emphasis(rateHz, 'de') : undefined;
    // Complex noise, spread over the whole rate; of the carrier's power, which is 1, each part takes a half.
    this.deviation = sqrt((10 ** (-cnrDb / 10) * rateHz) / ifBandwidthHz / 2);
    this.roll = gaussian(dice);
    this.step = (2 * Math.PI * peakDeviationHz) / rateHz;
    this.scale = 1 / this.step;
  }

  push(sound: Float32Array): Float32Array {
    const heard = sound.map((sample) => this.take(sample));
    this.deEmphasis?.push(heard, heard);
    return heard;
  }

  private take(sample: number): number {
    this.phase = (this.phase + this.step * sample) % (2 * Math.PI);
    const re = this.re.take(cos(this.phase) + this.deviation * this.roll());
    const im = this.im.take(sin(this.phase) + this.deviation * this.roll());
    const turn = atan2(im * this.lastRe - re * this.lastIm, re * this.lastRe + im * this.lastIm);
    this.lastRe = re;
    this.lastIm = im;
    return this.audio.take(this.scale * turn);
  }
}

/** The last samples, twice over, so that a window of them is never cut by the end of the array. */
class Fir {
  private readonly past: Float32Array;
  private at = 0;

  /** taps: symmetric. */
  constructor(private readonly taps: Float32Array) {
    this.past = new Float32Array(2 * taps.length);
  }

  take(sample: number): number {
    const { past, taps } = this;
    const { length } = taps;
    past[this.at] = sample;
    past[this.at + length] = sample;
    this.at = this.at + 1 === length ? 0 : this.at + 1;
    let sum = 0;
    for (let tap = 0; tap < length; tap++) sum += (taps[tap] as number) * (past[this.at + tap] as number);
    return sum;
  }
}

import { clean, Decimator, decimationOf } from '../band.js';
import { rmsDbfs } from '../measuring/level.js';
import { Envelopes } from '../slicing/envelopes.js';
import { BELL_202, type Tones } from '../tones.js';

/** Looked up once: the sample loops call them a million times a second. */
const { max, min, sqrt } = Math;

/** What holds the channel: tones of packets, a voice, or, where that is wished, any sound at all. */
export type Busy = 'data' | 'voice' | 'sound';

export interface CarrierSenseOptions {
  readonly tones?: Tones;
  /** Any sound above this level counts too. On wish only: an open squelch then holds the channel for good. */
  readonly soundAboveDbfs?: number;
}

const HOP_MS = 5;
/**
 * Tones: over this length the stronger tone holds a larger share of the power than it does in the noise of this receiver.
 * Measured: white noise 0.28, never above 0.40; flat FM behind a filter of 3 kHz 0.48, never above 0.62; packets at Eb/N0
 * of 9 dB 0.64, at 12 dB 0.72.
 */
const TONE_MS = 30;
const OVER_NOISE = 0.17;
const STAYS_OVER_NOISE = 0.08;
const LEAST_SHARE = 0.5;
/** The noise is learned from what is no packet, over some seconds; until then it is taken for the worst that was measured. */
const WORST_NOISE = 0.48;
const LEARNED_OVER_MS = 5000;
/** A voice: two stretches one pitch apart look alike, over this length, in looks in a row. Noise 0.2, never above 0.42. */
const VOICE_MS = 30;
const PITCH_HZ = { lowest: 75, highest: 330 } as const;
const ALIKE = 0.6;
const LOOK_EVERY_HOPS = 2;
const LOOKS = 2;
/** Between two packets of one over, between two words. */
const HOLD_MS = { data: 40, voice: 500, sound: 20 } as const;
/** Below this nothing is told from the silence of a closed squelch. */
const QUIET_DBFS = -70;

/**
 * Listen before talk on data, not on loudness: an open squelch is a free channel. Sound of any rate in, in blocks of any
 * length; tells whether the channel is held now, and by what.
 */
export class CarrierSense {
  private readonly decimator: Decimator;
  private readonly envelopes: Envelopes;
  private readonly hop: number;
  private readonly kept: number;
  /** Rings: the power of the last samples, their pre-emphasised form, and the power of the stronger tone. */
  private readonly power: Float32Array;
  private readonly sharp: Float32Array;
  private readonly tone: Float32Array;
  private at = 0;
  private last = 0;
  private untilHop: number;
  private hops = 0;
  private looksAlike = 0;
  private noiseShare: number = WORST_NOISE;
  private isOnData = false;
  private quiet = true;
  private readonly left: Record<Busy, number> = { data: 0, voice: 0, sound: 0 };
  private cleaned = new Float32Array(0);
  private narrow = new Float32Array(0);

  constructor(
    private readonly rateHz: number,
    private readonly options: CarrierSenseOptions = {},
  ) {
    this.decimator = new Decimator(rateHz);
    const { rateHz: working } = this.decimator;
    this.envelopes = new Envelopes(working, options.tones ?? BELL_202);
    this.hop = Math.round((HOP_MS * working) / 1000);
    this.untilHop = this.hop;
    const pitch = Math.ceil(working / PITCH_HZ.lowest);
    this.kept = Math.round((max(TONE_MS, VOICE_MS) * working) / 1000) + pitch + 1;
    this.power = new Float32Array(2 * this.kept);
    this.sharp = new Float32Array(2 * this.kept);
    this.tone = new Float32Array(2 * this.kept);
  }

  /** By what the channel is held now; undefined: it is free. */
  get busy(): Busy | undefined {
    const { data, voice, sound } = this.left;
    return data > 0 ? 'data' : voice > 0 ? 'voice' : sound > 0 ? 'sound' : undefined;
  }

  /** Nothing is heard at all: the squelch is closed, or the cable is out. */
  get isQuiet(): boolean {
    return this.quiet;
  }

  push(samples: Float32Array): void {
    if (this.cleaned.length < samples.length) {
      this.cleaned = new Float32Array(samples.length);
      this.narrow = new Float32Array(Math.ceil(samples.length / decimationOf(this.rateHz)) + 1);
    }
    const cleaned = this.cleaned.subarray(0, samples.length);
    clean(samples, cleaned);
    const count = this.decimator.push(cleaned, this.narrow);
    this.envelopes.push(this.narrow, count);
    for (let i = 0; i < count; i++) this.take(i);
  }

  private take(i: number): void {
    const sample = this.narrow[i] as number;
    const stronger = max(this.envelopes.mark[i] as number, this.envelopes.space[i] as number);
    this.put(this.power, sample * sample);
    this.put(this.sharp, sample - this.last);
    // A tone of amplitude a has the power a²/2.
    this.put(this.tone, (stronger * stronger) / 2);
    this.last = sample;
    this.at = this.at + 1 === this.kept ? 0 : this.at + 1;
    if (--this.untilHop > 0) return;
    this.untilHop = this.hop;
    this.judge();
  }

  /** Twice, so that the last stretch always lies in one piece. */
  private put(ring: Float32Array, value: number): void {
    ring[this.at] = value;
    ring[this.at + this.kept] = value;
  }

  private judge(): void {
    for (const kind of ['data', 'voice', 'sound'] as const)
      this.left[kind] = max(0, this.left[kind] - HOP_MS);
    const power = this.meanOf(this.power, TONE_MS);
    const level = rmsDbfs(power);
    this.quiet = level < QUIET_DBFS;
    if (this.quiet) {
      this.isOnData = false;
      this.looksAlike = 0;
      return;
    }
    this.judgeTones(this.meanOf(this.tone, TONE_MS) / power);
    if (++this.hops % LOOK_EVERY_HOPS === 0) this.judgeVoice();
    const { soundAboveDbfs } = this.options;
    if (soundAboveDbfs !== undefined && level > soundAboveDbfs) this.left.sound = HOLD_MS.sound;
  }

  private judgeTones(share: number): void {
    const over = this.isOnData ? STAYS_OVER_NOISE : OVER_NOISE;
    this.isOnData = share > max(LEAST_SHARE - OVER_NOISE, this.noiseShare) + over;
    if (this.isOnData) this.left.data = HOLD_MS.data;
    else if (this.busy === undefined)
      this.noiseShare += (HOP_MS / LEARNED_OVER_MS) * (min(WORST_NOISE, share) - this.noiseShare);
  }

  /** Flags too look alike from one to the next: they are told by their tones. */
  private judgeVoice(): void {
    this.looksAlike = !this.isOnData && this.alikeness() > ALIKE ? this.looksAlike + 1 : 0;
    if (this.looksAlike >= LOOKS) this.left.voice = HOLD_MS.voice;
  }

  private samplesOf(ms: number): number {
    return Math.round((ms * this.decimator.rateHz) / 1000);
  }

  /** Where the last stretch of that length begins in a ring. */
  private begin(samples: number): number {
    return this.at + this.kept - samples;
  }

  private meanOf(ring: Float32Array, ms: number): number {
    const samples = this.samplesOf(ms);
    const from = this.begin(samples);
    let sum = 0;
    for (let i = from; i < from + samples; i++) sum += ring[i] as number;
    return sum / samples;
  }

  /** How much the last stretch looks like the one a pitch before, at the pitch that fits best: 1 the same, about 0 noise. */
  private alikeness(): number {
    const { sharp } = this;
    const { rateHz } = this.decimator;
    const samples = this.samplesOf(VOICE_MS);
    const from = this.begin(samples);
    const end = from + samples;
    const [shortest, longest] = [Math.floor(rateHz / PITCH_HZ.highest), Math.floor(rateHz / PITCH_HZ.lowest)];
    let now = 0;
    for (let i = from; i < end; i++) now += (sharp[i] as number) ** 2;
    let before = 0;
    for (let i = from - shortest; i < end - shortest; i++) before += (sharp[i] as number) ** 2;
    let best = 0;
    for (let lag = shortest; lag <= longest; lag++) {
      let sum = 0;
      for (let i = from; i < end; i++) sum += (sharp[i] as number) * (sharp[i - lag] as number);
      const alike = sum / (sqrt(now * before) + Number.MIN_VALUE);
      if (alike > best) best = alike;
      // The stretch before moves back by one.
      before += (sharp[from - lag - 1] as number) ** 2 - (sharp[end - lag - 1] as number) ** 2;
    }
    return best;
  }
}

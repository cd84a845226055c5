import { gaussian } from './noise.js';

/** Looked up once: the sample loops call them a million times a second. */
const { cos, exp, max, min } = Math;

/** Formants of vowels, hertz (first two of Peterson and Barney 1952, men: from memory). */
const VOWELS_HZ = [
  [270, 2290, 3010],
  [530, 1840, 2480],
  [730, 1090, 2440],
  [570, 840, 2410],
  [300, 870, 2240],
] as const;
const FORMANT_WIDTH_HZ = 90;
const PITCH_HZ = { from: 90, to: 180 };
const SYLLABLE_MS = { from: 80, to: 260 };
const EDGE_MS = 20;
/** One syllable in so many hisses, one is a pause. */
const HISS = 0.25;
const PAUSE = 0.15;

/** A resonance of gain 1 at 0 Hz (two poles). */
class Resonance {
  private a = 0;
  private b = 0;
  private one = 0;
  private two = 0;

  constructor(private readonly rateHz: number) {}

  tune(hz: number): void {
    const radius = exp((-Math.PI * FORMANT_WIDTH_HZ) / this.rateHz);
    this.a = 2 * radius * cos((2 * Math.PI * min(hz, 0.45 * this.rateHz)) / this.rateHz);
    this.b = -radius * radius;
  }

  take(sample: number): number {
    const out = (1 - this.a - this.b) * sample + this.a * this.one + this.b * this.two;
    this.two = this.one;
    this.one = out;
    return out;
  }
}

/** Sound like speech: pulses of a voice, or hiss, through three formants, in syllables; endless, from a seed. */
export class SpeechLike {
  private readonly formants: readonly Resonance[];
  private readonly roll: () => number;
  private left = 0;
  private length = 1;
  private kind: 'voice' | 'hiss' | 'pause' = 'pause';
  private pitch = 0;
  private untilPulse = 0;

  constructor(
    private readonly rateHz: number,
    private readonly dice: () => number,
  ) {
    this.formants = [new Resonance(rateHz), new Resonance(rateHz), new Resonance(rateHz)];
    this.roll = gaussian(dice);
  }

  next(samples: number): Float32Array {
    return new Float32Array(samples).map(() => this.sample());
  }

  private sample(): number {
    if (this.left <= 0) this.syllable();
    this.left--;
    const edge = (EDGE_MS * this.rateHz) / 1000;
    const loud = max(0, min(1, this.left / edge, (this.length - this.left) / edge));
    let sound = loud * this.source();
    for (const formant of this.formants) sound = formant.take(sound);
    return max(-1, min(1, sound));
  }

  private source(): number {
    if (this.kind === 'pause') return 0;
    if (this.kind === 'hiss') return 0.1 * this.roll();
    if (--this.untilPulse > 0) return 0;
    this.untilPulse = this.rateHz / (this.pitch * (1 + 0.02 * this.roll()));
    return 2.5;
  }

  private syllable(): void {
    const { dice } = this;
    const between = ({ from, to }: { from: number; to: number }): number => from + (to - from) * dice();
    this.length = Math.round((between(SYLLABLE_MS) * this.rateHz) / 1000);
    this.left = this.length;
    const kind = dice();
    this.kind = kind < PAUSE ? 'pause' : kind < PAUSE + HISS ? 'hiss' : 'voice';
    this.pitch = between(PITCH_HZ);
    const vowel = VOWELS_HZ[Math.floor(dice() * VOWELS_HZ.length)] as (typeof VOWELS_HZ)[number];
    this.formants.forEach((formant, i) => formant.tune(vowel[i] as number));
  }
}

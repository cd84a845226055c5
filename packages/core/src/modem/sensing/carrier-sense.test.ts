import { seededDice } from '../../network/dice.js';
import { lowPass } from '../band.js';
import { addTone } from '../generator/faults.js';
import { FmChannel } from '../generator/fm-channel.js';
import { addNoise, noiseDeviation } from '../generator/noise.js';
import { SpeechLike } from '../generator/speech.js';
import { inventedFrames, joined, transmission, type Sending } from '../generator/track.js';
import { HF_300 } from '../tones.js';
import { CarrierSense, type Busy, type CarrierSenseOptions } from './carrier-sense.js';

const RATE_HZ = 22_050;
const FRAMES = inventedFrames(5, seededDice(1), { from: 40, to: 80 });
const PIECE_MS = 5;

/** What was told after each 5 ms. */
function told(
  sound: Float32Array,
  rateHz = RATE_HZ,
  options: CarrierSenseOptions = {},
): (Busy | undefined)[] {
  const sense = new CarrierSense(rateHz, options);
  const piece = Math.round((PIECE_MS * rateHz) / 1000);
  return Array.from({ length: Math.floor(sound.length / piece) }, (_, i) => {
    sense.push(sound.subarray(i * piece, (i + 1) * piece));
    return sense.busy;
  });
}

const shareOf = (told: readonly (Busy | undefined)[]): number =>
  told.filter((one) => one !== undefined).length / told.length;

function hiss(seconds: number, seed: number, deviation = 0.2, rateHz = RATE_HZ): Float32Array {
  const sound = new Float32Array(seconds * rateHz);
  addNoise(sound, deviation, seededDice(seed));
  return sound;
}

/** A discriminator with no carrier. */
function openSquelch(seconds: number, deEmphasis: boolean): Float32Array {
  const channel = new FmChannel({ rateHz: 48_000, cnrDb: -100, deEmphasis, dice: seededDice(2) });
  return channel.push(new Float32Array(48_000 * seconds)).map((sample) => 0.2 * sample);
}

function through(sound: Float32Array, taps: Float32Array): Float32Array {
  const filtered = new Float32Array(sound.length);
  for (let i = taps.length; i < sound.length; i++)
    for (let tap = 0; tap < taps.length; tap++)
      filtered[i] = (filtered[i] as number) + (taps[tap] as number) * (sound[i - tap] as number);
  return filtered;
}

function packet(ebN0Db: number, seed: number, sending: Partial<Sending> = {}): Float32Array {
  const sound = transmission(FRAMES.slice(0, 1), { rateHz: RATE_HZ, txDelayMs: 300, pauseMs: 0, ...sending });
  const power = sound.reduce((sum, sample) => sum + sample * sample, 0) / sound.length;
  addNoise(sound, noiseDeviation(power, { ebN0Db, baud: 1200, rateHz: RATE_HZ }), seededDice(seed));
  return sound;
}

describe('an open squelch is a free channel', () => {
  it.each([
    ['white noise', () => hiss(20, 3), RATE_HZ],
    ['white noise, faint', () => hiss(5, 4, 0.001), RATE_HZ],
    ['a flat receiver', () => openSquelch(5, false), 48_000],
    ['a receiver with de-emphasis', () => openSquelch(5, true), 48_000],
    [
      'a flat receiver behind a filter of 3 kHz',
      () => through(openSquelch(5, false), lowPass(3000 / 48_000, 61)),
      48_000,
    ],
    ['silence', () => new Float32Array(RATE_HZ * 5), RATE_HZ],
    ['numbers that are none', () => new Float32Array(RATE_HZ * 2).fill(NaN), RATE_HZ],
  ] as const)('%s: below one per cent', (_, sound, rateHz) => {
    expect(shareOf(told(sound(), rateHz))).toBeLessThan(0.01);
  });
});

describe('a packet', () => {
  // arithmetic: eight flags at 1200 baud are 53 ms.
  it.each([-6, 0, 6])('of 15 dB is noticed within eight flags, twist %i dB', (twistDb) => {
    for (let seed = 0; seed < 12; seed++) {
      const before = hiss(1, 100 + seed);
      const found = told(joined([before, packet(15, seed, { twistDb })])).slice(1000 / PIECE_MS);
      expect(found.indexOf('data')).toBeGreaterThanOrEqual(0);
      expect((found.indexOf('data') + 1) * PIECE_MS).toBeLessThanOrEqual(55);
    }
  });

  it('is held to its end, and the channel is free soon after', () => {
    for (let seed = 0; seed < 10; seed++) {
      const sound = packet(15, seed);
      const lasts = Math.floor((sound.length / RATE_HZ) * (1000 / PIECE_MS));
      const found = told(joined([sound, hiss(1, 200 + seed, 0.05)]));
      expect(shareOf(found.slice(15, lasts))).toBe(1);
      expect(shareOf(found.slice(lasts + 100 / PIECE_MS))).toBe(0);
    }
  });

  it('of 10 dB is noticed before its frame begins, once the noise of the receiver is known', () => {
    const noticed = Array.from({ length: 4 }, (_, seed) => {
      const found = told(joined([hiss(8, 300 + seed, 0.1), packet(10, seed)])).slice(8000 / PIECE_MS);
      return found.slice(0, 300 / PIECE_MS).includes('data');
    });
    expect(noticed.filter(Boolean).length).toBe(4);
  });

  it('of HF has tones of its own', () => {
    const sound = transmission(FRAMES.slice(0, 1), { rateHz: RATE_HZ, tones: HF_300, txDelayMs: 300 });
    expect(shareOf(told(sound, RATE_HZ, { tones: HF_300 }))).toBeGreaterThan(0.9);
  });
});

it('a voice is noticed within half a second in 95 of 100, and held through its pauses', () => {
  const firsts = Array.from({ length: 40 }, (_, seed) => {
    const sound = new SpeechLike(RATE_HZ, seededDice(seed)).next(RATE_HZ / 2).map((sample) => 0.3 * sample);
    const first = told(sound).findIndex((one) => one !== undefined);
    return first < 0 ? Infinity : (first + 1) * PIECE_MS;
  });
  expect(firsts.filter((ms) => ms <= 500).length / firsts.length).toBeGreaterThanOrEqual(0.95);
  const long = new SpeechLike(RATE_HZ, seededDice(70)).next(RATE_HZ * 10).map((sample) => 0.3 * sample);
  const found = told(long).slice(100);
  expect(shareOf(found)).toBeGreaterThan(0.9);
  expect(found).toContain('voice');
});

it('a hum of the mains is none', () => {
  const sound = hiss(10, 5, 0.05);
  for (const hz of [50, 100, 150]) addTone(sound, RATE_HZ, hz, 0.03);
  expect(shareOf(told(sound))).toBeLessThan(0.01);
});

it('any sound counts on wish only, above its level', () => {
  const sound = hiss(2, 6, 0.2);
  // arithmetic: half of the power of 0.2² lies in the band that is kept: about −17 dBFS + 3 − 3.
  expect(shareOf(told(sound, RATE_HZ, { soundAboveDbfs: -25 }).slice(20))).toBe(1);
  expect(new Set(told(sound, RATE_HZ, { soundAboveDbfs: -25 }).slice(20))).toEqual(new Set(['sound']));
  expect(shareOf(told(sound, RATE_HZ, { soundAboveDbfs: -5 }))).toBe(0);
});

it('tells silence from sound', () => {
  const sense = new CarrierSense(RATE_HZ);
  expect(sense.isQuiet).toBe(true);
  sense.push(hiss(1, 10, 0.01));
  expect(sense.isQuiet).toBe(false);
  sense.push(new Float32Array(RATE_HZ));
  expect(sense.isQuiet).toBe(true);
});

it('tells the same however the sound is cut', () => {
  const sound = joined([hiss(1, 7, 0.05), packet(20, 8), hiss(1, 9, 0.05)]);
  const whole = new CarrierSense(RATE_HZ);
  const cut = new CarrierSense(RATE_HZ);
  let at = 0;
  for (const length of [1, 7, 1000, 333, 20_000, 3, 15_000, 9000]) {
    const piece = sound.subarray(at, at + length);
    whole.push(piece);
    for (let i = 0; i < piece.length; i += 13) cut.push(piece.subarray(i, i + 13));
    expect(cut.busy).toBe(whole.busy);
    at += length;
  }
});

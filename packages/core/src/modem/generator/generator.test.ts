import { HdlcDecoder } from '../../hdlc/bit-stream.js';
import { seededDice } from '../../network/dice.js';
import { lowPass } from '../band.js';
import { Emphasis } from '../emphasis.js';
import { transmissionBits } from '../modulator.js';
import { BELL_202 } from '../tones.js';
import { addOffset, addTone, clip, cutPreamble, offClock, offTune } from './faults.js';
import { FmChannel } from './fm-channel.js';
import { gaussian, noiseDeviation } from './noise.js';
import { meanPower } from '../measuring/level.js';
import { SpeechLike } from './speech.js';
import { inventedFrames, transmission } from './track.js';

const RATE_HZ = 48_000;

describe('the noise against its own physics', () => {
  it('has the variance, the mean and the tails of a normal distribution', () => {
    const roll = gaussian(seededDice(4));
    const count = 100_000;
    const values = Array.from({ length: count }, roll);
    const mean = values.reduce((sum, one) => sum + one, 0) / count;
    const variance = values.reduce((sum, one) => sum + one * one, 0) / count;
    // Five standard errors.
    expect(Math.abs(mean)).toBeLessThan(5 / Math.sqrt(count));
    expect(Math.abs(variance - 1)).toBeLessThan(5 * Math.sqrt(2 / count));
    // Beyond 1.96 lie 5 % (tables of the normal distribution).
    const beyond = values.filter((one) => Math.abs(one) > 1.96).length / count;
    expect(Math.abs(beyond - 0.05)).toBeLessThan(5 * Math.sqrt((0.05 * 0.95) / count));
  });

  it.each([8000, 11_025, 44_100])('Eb/N0 is the energy of a bit over the density, at %i Hz', (rateHz) => {
    const deviation = noiseDeviation(0.5, { ebN0Db: 10, baud: 1200, rateHz });
    // arithmetic: density = variance over half the rate; energy of a bit = 0.5/1200.
    expect(0.5 / 1200 / (deviation ** 2 / (rateHz / 2))).toBeCloseTo(10, 9);
  });
});

describe('the FM channel against its own physics', () => {
  const through = (sound: Float32Array, cnrDb: number, deEmphasis = false): Float32Array =>
    new FmChannel({ rateHz: RATE_HZ, cnrDb, deEmphasis, dice: seededDice(5) }).push(sound);
  const sine = (hz: number, amplitude: number, seconds: number): Float32Array => {
    const samples = new Float32Array(RATE_HZ * seconds);
    addTone(samples, RATE_HZ, hz, amplitude);
    return samples;
  };
  const settled = (samples: Float32Array): Float32Array => samples.subarray(RATE_HZ / 10);

  it('without noise gives back what went in', () => {
    const heard = settled(through(sine(1000, 0.5, 1), Infinity));
    // arithmetic: a sine of amplitude 0.5 has the power of 0.125.
    expect(10 * Math.log10(meanPower(heard) / 0.125)).toBeCloseTo(0, 1);
  });

  it('well above threshold has noise that grows with frequency (Taub and Schilling, "Noise in FM")', () => {
    const cnrDb = 20;
    const silence = new Float32Array(RATE_HZ * 4);
    // Density of the frequency, in Hz² per Hz: f² / (CNR · B), here behind the audio filter (5 kHz), summed up by 10 Hz.
    const taps = lowPass(5000 / RATE_HZ, 65);
    const passed = (hz: number): number => {
      const angle = (2 * Math.PI * hz) / RATE_HZ;
      return taps.reduce((sum, tap, i) => sum + tap * Math.cos(angle * (i - 32)), 0) ** 2;
    };
    let expected = 0;
    for (let hz = 5; hz < 7500; hz += 10)
      expected += (10 * hz * hz * passed(hz)) / (100 * 15_000) / 3000 ** 2;
    const heard = meanPower(settled(through(silence, cnrDb)));
    expect(Math.abs(10 * Math.log10(heard / expected))).toBeLessThan(0.3);
  });

  it('below threshold clicks nearly as often as Rice says', () => {
    // Rice 1963, "Noise in FM receivers": (B/√12) · erfc(√CNR) a second without modulation; erfc(√2.512) = 0.02500 (tables).
    const seconds = 20;
    const heard = through(new Float32Array(RATE_HZ * seconds), 4);
    // A click is a whole turn within a tenth of a millisecond: more than half of one within half a millisecond.
    const perTurn = RATE_HZ / 3000;
    let clicks = 0;
    let running = 0;
    const width = 24;
    let quietUntil = 0;
    for (let i = width; i < heard.length; i++) {
      running += (heard[i] as number) - (i >= 2 * width ? (heard[i - width] as number) : 0);
      if (i < quietUntil || Math.abs(running / perTurn) < 0.5) continue;
      clicks++;
      quietUntil = i + 2 * width;
    }
    const expected = (15_000 / Math.sqrt(12)) * 0.025;
    // Rice counts passages behind the origin; some turn back at once and are no click here. A dB less or more would be ×1.7.
    expect(clicks / seconds / expected).toBeGreaterThan(0.55);
    expect(clicks / seconds / expected).toBeLessThan(1);
  });

  it('de-emphasis falls by 6 dB an octave, and pre-emphasis is its reverse', () => {
    const power = (hz: number): number => meanPower(settled(through(sine(hz, 0.3, 1), Infinity, true)));
    expect(10 * Math.log10(power(1000) / power(2000))).toBeCloseTo(6, 0);
    expect(10 * Math.log10(power(1000) / 0.045)).toBeCloseTo(0, 1);
    const sound = sine(700, 0.4, 1);
    const there = new Float32Array(sound.length);
    new Emphasis(RATE_HZ, 'de').push(sound, there);
    new Emphasis(RATE_HZ, 'pre').push(there, there);
    for (let i = 100; i < 1000; i++) expect(there[i]).toBeCloseTo(sound[i] as number, 4);
  });

  it('refuses a rate that does not hold its IF', () =>
    expect(
      () => new FmChannel({ rateHz: 22_050, cnrDb: 10, deEmphasis: false, dice: seededDice(1) }),
    ).toThrow(RangeError));
});

describe('faults', () => {
  it('clip, hum and offset do what they say', () => {
    const samples = new Float32Array(RATE_HZ);
    addTone(samples, RATE_HZ, 50, 0.5);
    expect(meanPower(samples)).toBeCloseTo(0.125, 4);
    clip(samples, 0.25);
    expect(Math.max(...samples.subarray(0, 2000))).toBe(0.25);
    addOffset(samples, 0.1);
    expect(samples.reduce((sum, one) => sum + one, 0) / samples.length).toBeCloseTo(0.1, 4);
  });

  it('of clock and tuning change what they should', () => {
    // arithmetic.
    expect(offClock(BELL_202, 200)).toEqual({ baud: 1200.24, markHz: 1200.24, spaceHz: 2200.44 });
    expect(offTune(BELL_202, -50)).toEqual({ baud: 1200, markHz: 1150, spaceHz: 2150 });
  });

  it('a cut preamble leaves so many bits, and the frame', () => {
    const [frame] = inventedFrames(1, seededDice(1), { from: 20, to: 20 }) as [Uint8Array];
    const bits = transmissionBits([frame], BELL_202, { txDelayMs: 300, txTailMs: 0 });
    const cut = cutPreamble(bits, 45, 12);
    expect(bits.length - cut.length).toBe(45 * 8 - 12);
    expect(new HdlcDecoder().push(cut)).toEqual([frame]);
  });
});

it('speech-like sound has syllables, pauses, and most of its power where voices have it', () => {
  const sound = new SpeechLike(RATE_HZ, seededDice(2)).next(RATE_HZ * 20);
  const parts = Array.from({ length: 400 }, (_, i) =>
    meanPower(sound.subarray((i * RATE_HZ) / 20, ((i + 1) * RATE_HZ) / 20)),
  ).sort((a, b) => a - b);
  expect((parts[40] as number) / (parts[360] as number)).toBeLessThan(0.01);
  // Differences of neighbours weigh high frequencies: white noise has twice its power in them.
  const rises = sound.map((sample, i) => sample - (sound[i - 1] ?? 0));
  expect(meanPower(rises) / meanPower(sound)).toBeLessThan(0.3);
  expect(sound.every((sample) => Math.abs(sample) <= 1)).toBe(true);
});

it('the same seed gives the same sound', () => {
  const one = (): Float32Array =>
    transmission(inventedFrames(2, seededDice(9), { from: 20, to: 60 }), { rateHz: 11_025 });
  expect(one()).toEqual(one());
});

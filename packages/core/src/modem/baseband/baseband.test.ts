import fc from 'fast-check';
import { toHex } from '../../bits/octets.js';
import { Descrambler, NrziDecoder } from '../../hdlc/line-code.js';
import { seededDice } from '../../network/dice.js';
import { Demodulator, DECODERS } from '../demodulator.js';
import { addOffset } from '../generator/faults.js';
import { addNoise, noiseDeviation } from '../generator/noise.js';
import { meanPower } from '../measuring/level.js';
import { inventedFrames, joined } from '../generator/track.js';
import { transmissionBits } from '../modulator.js';
import { SCRAMBLED_9600 } from '../tones.js';
import { BasebandModulator } from './modulator.js';
import { PULSE_REACH, raisedCosine } from './pulse.js';

const RATES = [22_050, 44_100, 48_000, 96_000, 192_000];
const FRAMES = inventedFrames(10, seededDice(1), { from: 20, to: 200 });
const TIMES = { txDelayMs: 30, txTailMs: 5 };

const soundOf = (rateHz: number, levelDbfs = -12): Float32Array => {
  const modulator = new BasebandModulator({ rateHz, levelDbfs });
  const parts = FRAMES.flatMap((frame) => [
    modulator.push(transmissionBits([frame], SCRAMBLED_9600, TIMES)).slice(),
    new Float32Array(Math.round(rateHz / 100)),
  ]);
  return joined([...parts, new Float32Array(rateHz / 10)]);
};

it('the pulse is 1 at its bit and 0 at every other (Nyquist)', () => {
  expect(raisedCosine(0)).toBe(1);
  for (let bit = 1; bit <= PULSE_REACH; bit++) expect(raisedCosine(bit)).toBeCloseTo(0, 9);
  // Where numerator and denominator both vanish: π/4 · sinc(1) = 0 at one bit for a roll-off of a half.
  expect(raisedCosine(1 + 1e-8)).toBeCloseTo(raisedCosine(1.0001), 3);
});

describe('the modulator', () => {
  it.each(RATES)('at %i Hz keeps the bit clock, and its level', (rateHz) => {
    const dice = seededDice(3);
    const bits = Uint8Array.from({ length: 48_000 }, () => (dice() < 0.5 ? 0 : 1));
    const sound = new BasebandModulator({ rateHz, levelDbfs: -12 }).push(bits);
    // arithmetic: 48,000 bits at 9600 baud are five seconds.
    expect(Math.abs(sound.length - 5 * rateHz)).toBeLessThanOrEqual(1);
    expect(10 * Math.log10(2 * meanPower(sound))).toBeCloseTo(-12, 1);
  });

  it('carries NRZI in 1 + x^12 + x^17: read by hand in the middle of each bit', () => {
    const rateHz = 96_000;
    const bits = transmissionBits(FRAMES.slice(0, 1), SCRAMBLED_9600, TIMES);
    const sound = new BasebandModulator({ rateHz, levelDbfs: -6 }).push(bits);
    // Ten samples a bit; a bit stands at its full height PULSE_REACH bits after it was pushed.
    const levels = Uint8Array.from({ length: bits.length - PULSE_REACH }, (_, i) =>
      (sound[10 * (i + PULSE_REACH)] as number) > 0 ? 1 : 0,
    );
    const read = new NrziDecoder().push(new Descrambler().push(levels));
    expect(read.subarray(18)).toEqual(bits.subarray(18, bits.length - PULSE_REACH));
  });

  it('gives the same for bits in any pieces, and refuses rates that do not hold its band', () => {
    const bits = transmissionBits(FRAMES.slice(0, 1), SCRAMBLED_9600, TIMES).subarray(0, 200);
    const whole = new BasebandModulator({ rateHz: 44_100, levelDbfs: -12 }).push(bits);
    const pieces = new BasebandModulator({ rateHz: 44_100, levelDbfs: -12 });
    const parts = [bits.subarray(0, 7), bits.subarray(7, 90), bits.subarray(90)].map((part) =>
      pieces.push(part).slice(),
    );
    expect(joined(parts)).toEqual(whole);
    for (const rateHz of [11_025, NaN])
      expect(() => new BasebandModulator({ rateHz, levelDbfs: 0 })).toThrow(RangeError);
  });
});

describe.each(DECODERS)('the %s receiver', (decoder) => {
  const heard = (sound: Float32Array, rateHz: number): string[] =>
    new Demodulator(rateHz, decoder, SCRAMBLED_9600).push(sound).map(({ raw }) => toHex(raw));

  it.each(RATES)('reads all at %i Hz, upside down too, and off centre', (rateHz) => {
    const sound = soundOf(rateHz);
    addOffset(sound, 0.05);
    expect(heard(sound, rateHz)).toEqual(FRAMES.map(toHex));
    expect(
      heard(
        sound.map((sample) => -sample),
        rateHz,
      ),
    ).toEqual(FRAMES.map(toHex));
  });

  // Ideal coherent reception of ±1 (Proakis): half of 993 bits at 7.1 dB. Measured: half at 8.1 dB, 7.1 with repair.
  it('reads most at 10 dB, and tells the level', () => {
    const rateHz = 48_000;
    const sound = soundOf(rateHz);
    addNoise(sound, noiseDeviation(10 ** -1.2 / 2, { ebN0Db: 10, baud: 9600, rateHz }), seededDice(2));
    const frames = new Demodulator(rateHz, decoder, SCRAMBLED_9600).push(sound);
    expect(frames.length).toBeGreaterThan(7);
    for (const { levelDbfs, ebN0Db } of frames) {
      expect(Math.abs(levelDbfs + 12)).toBeLessThan(0.5);
      expect(Math.abs((ebN0Db ?? 0) - 10)).toBeLessThan(1.5);
    }
  });

  it.each(RATES)('measures preamble, clock and noise at %i Hz', (rateHz) => {
    const modulation = { ...SCRAMBLED_9600, baud: 9600 * (1 + 100e-6) };
    const modulator = new BasebandModulator({ rateHz, levelDbfs: -12, modulation });
    const [frame] = inventedFrames(1, seededDice(6), { from: 150, to: 150 }) as [Uint8Array];
    const hiss = new Float32Array(rateHz / 10);
    addNoise(hiss, 0.1, seededDice(7));
    const sent = modulator.push(transmissionBits([frame], SCRAMBLED_9600, { txDelayMs: 120, txTailMs: 10 }));
    const [got] = new Demodulator(rateHz, decoder, SCRAMBLED_9600).push(
      joined([hiss, sent, new Float32Array(rateHz / 10)]),
    );
    // arithmetic: 144 flags of 8 bits at 9600 baud; the descrambler needs the first bits.
    expect(Math.abs((got?.preambleMs ?? 0) - 120)).toBeLessThan(5);
    expect(Math.abs((got?.baudErrorPpm ?? 0) - 100)).toBeLessThan(40);
    expect(got?.ebN0Db).toBe(18);
  });

  it('finds nothing in noise, and ends on any numbers', () => {
    const noise = new Float32Array(48_000 * 10);
    addNoise(noise, 0.3, seededDice(4));
    expect(heard(noise, 48_000)).toEqual([]);
    fc.assert(
      fc.property(fc.float32Array({ maxLength: 500 }), (any) => expect(heard(any, 48_000)).toEqual([])),
      { numRuns: 20 },
    );
  });
});

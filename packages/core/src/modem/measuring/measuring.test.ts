import { seededDice } from '../../network/dice.js';
import { Demodulator, DECODERS, type DecoderName, type DemodulatedFrame } from '../demodulator.js';
import { addNoise, noiseDeviation } from '../generator/noise.js';
import { addOffset, addTone, clip, offClock, offTune } from '../generator/faults.js';
import { inventedFrames, joined, transmission, type Sending } from '../generator/track.js';
import { BELL_202 } from '../tones.js';
import { SoundMeter } from './sound-meter.js';

const RATE_HZ = 22_050;
const [FRAME] = inventedFrames(1, seededDice(1), { from: 104, to: 104 }) as [Uint8Array];

/** A frame heard after half a second of silence. */
function heard(
  sending: Partial<Sending>,
  { ebN0Db, decoder = 'default' }: { ebN0Db?: number; decoder?: DecoderName } = {},
): DemodulatedFrame {
  const { levelDbfs = -12 } = sending;
  const sound = joined([
    new Float32Array(RATE_HZ / 2),
    transmission([FRAME], { rateHz: RATE_HZ, levelDbfs, ...sending }),
    new Float32Array(RATE_HZ),
  ]);
  if (ebN0Db !== undefined) {
    const power = 10 ** (levelDbfs / 10) / 2;
    addNoise(sound, noiseDeviation(power, { ebN0Db, baud: 1200, rateHz: RATE_HZ }), seededDice(2));
  }
  const frames = new Demodulator(RATE_HZ, decoder).push(sound);
  expect(frames).toHaveLength(1);
  return frames[0] as DemodulatedFrame;
}

const near = (value: number | undefined, expected: number, within: number): void =>
  expect(Math.abs((value ?? NaN) - expected)).toBeLessThan(within);

describe.each(DECODERS)('what the %s decoder measures of a frame', (decoder) => {
  it('level and twist are those it was sent with', () => {
    for (const [levelDbfs, twistDb] of [
      [-30, 0],
      [-12, 5],
      [-6, -5],
    ] as const) {
      const { markDbfs, spaceDbfs, ...frame } = heard({ levelDbfs, twistDb }, { decoder });
      near(frame.twistDb, twistDb, 0.3);
      near(markDbfs, levelDbfs - Math.max(0, twistDb), 0.4);
      near(spaceDbfs, levelDbfs + Math.min(0, twistDb), 0.4);
    }
  });

  it('preamble, clock and tuning are those it was sent with', () => {
    const frame = heard({ txDelayMs: 300, tones: offTune(offClock(BELL_202, 150), 12) }, { decoder });
    // arithmetic: 45 flags of 8 bits at 1200 baud.
    near(frame.preambleMs, 300, 14);
    near(frame.baudErrorPpm, 150, 60);
    near(frame.markErrorHz, 12.2, 1);
    near(frame.spaceErrorHz, 12.3, 1);
    near(heard({ txDelayMs: 100 }, { decoder }).preambleMs, 100, 14);
    near(heard({}, { decoder }).baudErrorPpm, 0, 40);
  });

  it('Eb/N0 is that of the noise', () => {
    for (const ebN0Db of [13, 20]) near(heard({}, { ebN0Db, decoder }).ebN0Db, ebN0Db, 1.5);
    expect(heard({}, { decoder }).ebN0Db).toBeGreaterThan(25);
  });
});

it('a carrier is told from noise and silence', () => {
  const noise = new Float32Array(RATE_HZ * 10);
  addNoise(noise, 0.1, seededDice(3));
  for (const decoder of DECODERS) {
    const demodulator = new Demodulator(RATE_HZ, decoder);
    let most = 0;
    for (let at = 0; at < noise.length; at += 500) {
      demodulator.push(noise.subarray(at, at + 500));
      if (at > RATE_HZ / 2) most = Math.max(most, demodulator.carrier);
    }
    expect(demodulator.hasCarrier).toBe(false);
    demodulator.push(transmission([FRAME], { rateHz: RATE_HZ, pauseMs: 0 }));
    expect(demodulator.carrier).toBeGreaterThan(most);
    expect(demodulator.hasCarrier).toBe(true);
  }
});

describe('the meter', () => {
  const meter = (sound: Float32Array): SoundMeter => {
    const one = new SoundMeter(RATE_HZ);
    one.push(sound);
    return one;
  };

  it('reads a full-scale sine as 0 dBFS (AES17), and its peak', () => {
    const sine = new Float32Array(RATE_HZ);
    addTone(sine, RATE_HZ, 1000, 1);
    const { rmsDbfs, peakDbfs, offset, clippedShare } = meter(sine).read() ?? {};
    near(rmsDbfs, 0, 0.01);
    near(peakDbfs, 0, 0.1);
    near(offset, 0, 0.001);
    expect(clippedShare).toBe(0);
  });

  it('sees clipping and an offset, which is not part of the level', () => {
    const sine = new Float32Array(RATE_HZ);
    addTone(sine, RATE_HZ, 300, 1);
    clip(sine, 0.5);
    addOffset(sine, 0.2);
    const read = meter(sine).read();
    near(read?.offset, 0.2, 0.001);
    near(read?.peakDbfs, 20 * Math.log10(0.7), 0.01);
    // arithmetic: a sine is beyond half its amplitude for 120 of 180 degrees.
    near(read?.clippedShare, 2 / 3, 0.05);
  });

  it('of a tone with an offset the level is that of the tone', () => {
    const sine = new Float32Array(RATE_HZ);
    addTone(sine, RATE_HZ, 1000, 0.5);
    addOffset(sine, 0.4);
    // arithmetic: 20 log 0.5.
    near(meter(sine).read()?.rmsDbfs, -6.02, 0.05);
  });

  it('the noise floor is that of the quietest part, signals apart', () => {
    const sound = new Float32Array(RATE_HZ * 2);
    addNoise(sound, 0.01, seededDice(5));
    addTone(sound.subarray(0, RATE_HZ), RATE_HZ, 1500, 0.5);
    // arithmetic: 20 log 0.01, and 3 dB since a full-scale sine is the reference.
    near(meter(sound).read()?.noiseFloorDbfs, -37, 1);
  });

  it('begins anew when read, and takes what is no number for silence', () => {
    const one = meter(Float32Array.of(0.9, NaN, Infinity, -0.9));
    near(one.read()?.peakDbfs, 20 * Math.log10(0.9), 0.01);
    expect(one.read()).toBeUndefined();
    one.push(new Float32Array(4));
    expect(one.read()?.rmsDbfs).toBeLessThan(-300);
  });
});

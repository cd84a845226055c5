import fc from 'fast-check';
import { toHex } from '../bits/octets.js';
import { HdlcDecoder } from '../hdlc/bit-stream.js';
import { airTimeMs } from '../hdlc/air-time.js';
import { seededDice } from '../network/dice.js';
import { lowPass } from './band.js';
import { MEAN_POWER, raisedCosine } from './baseband/pulse.js';
import { Emphasis } from './emphasis.js';
import { DECODERS, Demodulator, type DecoderName, type DemodulatedFrame } from './demodulator.js';
import { AfskModulator, keyingTone, preEmphasisDb, transmissionBits } from './modulator.js';
import { addNoise, noiseDeviation } from './generator/noise.js';
import { meanPower } from './measuring/level.js';
import { inventedFrames, joined, transmission, type Sending } from './generator/track.js';
import { BELL_202, HF_300 } from './tones.js';

const RATES = [8000, 11_025, 22_050, 44_100, 48_000, 96_000];
const TIMES = { txDelayMs: 150, txTailMs: 20 };

/** Frames of 102 octets of text, from a seed. */
const someFrames = (count: number, seed: number): Uint8Array[] =>
  inventedFrames(count, seededDice(seed), { from: 102, to: 102 });

/** Each frame a transmission, with a tenth of a second of silence after it. */
const soundOf = (frames: readonly Uint8Array[], sending: Sending): Float32Array =>
  joined(frames.map((frame) => transmission([frame], sending)));

const heard = (
  sound: Float32Array,
  rateHz: number,
  decoder: DecoderName = 'wide',
  tones = BELL_202,
): DemodulatedFrame[] => new Demodulator(rateHz, decoder, tones).push(withQuiet(sound, rateHz));
const hexOf = (frames: readonly { raw: Uint8Array }[]): string[] => frames.map(({ raw }) => toHex(raw));

/** The default decoder knows a frame a quarter of a second after its end; at 300 baud a second. */
function withQuiet(sound: Float32Array, rateHz: number): Float32Array {
  const longer = new Float32Array(sound.length + 1.2 * rateHz);
  longer.set(sound);
  return longer;
}

describe('the modulator', () => {
  it.each(RATES)(
    'at %i Hz each bit lasts exactly as long as it should, over the whole transmission',
    (rateHz) => {
      const bits = new Uint8Array(12_000);
      const samples = new AfskModulator({ rateHz, levelDbfs: -6 }).push(bits);
      // arithmetic: 12,000 bits at 1200 baud are ten seconds.
      expect(Math.abs(samples.length - 10 * rateHz)).toBeLessThanOrEqual(1);
    },
  );

  it.each([
    ['mark', 1, 1200],
    ['space', 0, 2200],
  ])('%s is a tone of its frequency, within a hertz, and of its level', (_, level, hz) => {
    const rateHz = 11_025;
    // NRZI: ones keep the level; it begins at space, and one zero brings mark.
    const bits = new Uint8Array(2400).fill(1);
    if (level === 1) bits[0] = 0;
    const samples = new AfskModulator({ rateHz, levelDbfs: -6 }).push(bits).subarray(100);
    // Zero crossings upward: as many as cycles.
    let crossings = 0;
    for (let i = 1; i < samples.length; i++)
      if ((samples[i - 1] as number) < 0 && (samples[i] as number) >= 0) crossings++;
    expect(Math.abs(crossings / (samples.length / rateHz) - hz)).toBeLessThan(1);
    // AES17: a full-scale sine, of power a half, is 0 dBFS.
    expect(10 * Math.log10(2 * meanPower(samples))).toBeCloseTo(-6, 1);
  });

  it('never jumps: the phase is continuous', () => {
    const rateHz = 48_000;
    const samples = soundOf(someFrames(1, 1), { rateHz }).subarray(0, rateHz / 2);
    // arithmetic: the steepest that a 2200 Hz sine of this amplitude gets between two samples.
    const steepest = 10 ** (-12 / 20) * 2 * Math.sin((Math.PI * 2200) / rateHz);
    let most = 0;
    for (let i = 1; i < samples.length; i++)
      most = Math.max(most, Math.abs((samples[i] as number) - (samples[i - 1] as number)));
    expect(most).toBeLessThanOrEqual(steepest * 1.001);
  });

  it('gives the same for bits in any pieces', () => {
    fc.assert(
      fc.property(fc.array(fc.nat(40), { maxLength: 20 }), fc.constantFrom(...RATES), (cuts, rateHz) => {
        const bits = transmissionBits(someFrames(1, 2), BELL_202, TIMES).subarray(0, 100);
        const whole = new AfskModulator({ rateHz, levelDbfs: -12 }).push(bits);
        const pieces = new AfskModulator({ rateHz, levelDbfs: -12 });
        let at = 0;
        const parts = [...cuts, bits.length].flatMap((length) => {
          const part = pieces.push(bits.subarray(at, at + length)).slice();
          at += length;
          return [...part];
        });
        expect(parts).toEqual([...whole]);
      }),
      { numRuns: 30 },
    );
  });

  it('keys for TXDELAY, and frames that follow share a flag', () => {
    const frames = someFrames(3, 3);
    const bits = transmissionBits(frames, BELL_202, { txDelayMs: 300, txTailMs: 0 });
    // arithmetic: 45 flags of 8 bits at 1200 baud are 300 ms.
    expect(bits.subarray(0, 8 * 45)).toEqual(
      Uint8Array.from({ length: 360 }, (_, i) => (0x7e >> (i & 7)) & 1),
    );
    expect(
      new HdlcDecoder().push(bits).map((frame) => ('discarded' in frame ? 'discard' : toHex(frame))),
    ).toEqual(frames.map(toHex));
    const alone = frames.reduce((sum, frame) => sum + airTimeMs(frame, 1200), 0);
    expect((bits.length * 1000) / 1200).toBeCloseTo(alone + (44 * 8) / 1.2 - (2 * 8) / 1.2, 6);
  });

  it('refuses rates and tones that cannot be', () => {
    expect(() => new AfskModulator({ rateHz: 7999, levelDbfs: 0 })).toThrow(RangeError);
    expect(() => keyingTone(24_000, 10, 44_100, 0)).toThrow(RangeError);
    expect(keyingTone(15_000, 4, 44_100, 0)).toHaveLength(4);
  });
});

describe.each(DECODERS)('the %s decoder', (decoder) => {
  it.each(RATES)('reads all at %i Hz, with level, twist and time', (rateHz) => {
    const frames = someFrames(5, 7);
    const got = heard(soundOf(frames, { rateHz }), rateHz, decoder);
    expect(hexOf(got)).toEqual(frames.map(toHex));
    for (const { levelDbfs, twistDb } of got) {
      expect(Math.abs(levelDbfs + 12)).toBeLessThan(0.5);
      expect(Math.abs(twistDb ?? 99)).toBeLessThan(0.5);
    }
    expect(got.every(({ repairs }) => repairs === 0)).toBe(true);
    // The last bit of the first frame, and some samples of the filters.
    const firstMs = 150 + airTimeMs(frames[0] as Uint8Array, 1200);
    expect(Math.abs((got[0] as DemodulatedFrame).atMs - firstMs)).toBeLessThan(12);
  });

  it('gives the same however the sound is cut', () => {
    const rateHz = 22_050;
    const sound = withQuiet(soundOf(someFrames(2, 8), { rateHz }), rateHz);
    const dice = seededDice(1);
    addNoise(sound, 0.02, dice);
    const whole = new Demodulator(rateHz, decoder).push(sound);
    const cutter = new Demodulator(rateHz, decoder);
    const pieces: DemodulatedFrame[] = [];
    for (let at = 0; at < sound.length;) {
      const length = Math.floor(dice() * 3000);
      pieces.push(...cutter.push(sound.subarray(at, at + length)));
      at += length;
    }
    expect(pieces).toEqual(whole);
    expect(whole).toHaveLength(2);
  });

  it('finds no frame in noise, silence, numbers that are none, or the highest values', () => {
    const noise = new Float32Array(11_025 * 20);
    addNoise(noise, 0.3, seededDice(11));
    const bad = Float32Array.from(
      { length: 44_100 },
      (_, i) => [NaN, Infinity, -Infinity, 3e38, 0][i % 5] as number,
    );
    for (const sound of [noise, new Float32Array(44_100), bad])
      expect(heard(sound, 44_100, decoder)).toEqual([]);
  });

  it('goes on after bad numbers', () => {
    const demodulator = new Demodulator(44_100, decoder);
    demodulator.push(new Float32Array(1000).fill(NaN));
    const frames = someFrames(2, 12);
    const sound = withQuiet(soundOf(frames, { rateHz: 44_100 }), 44_100);
    expect(hexOf(demodulator.push(sound))).toEqual(frames.map(toHex));
  });

  // A single slicer reads half of such frames at about 10.6 dB (theory and practice of a non-coherent slicer).
  it('reads nearly all at 13 dB in white noise, and not nearly none at 11', () => {
    const rateHz = 11_025;
    const frames = someFrames(20, 13);
    const share = (ebN0Db: number): number => {
      const sound = soundOf(frames, { rateHz });
      // The pauses are a tenth of a second each: the power is that of the transmissions.
      const power = 10 ** (-12 / 10) / 2;
      addNoise(sound, noiseDeviation(power, { ebN0Db, baud: 1200, rateHz }), seededDice(14));
      return heard(sound, rateHz, decoder).length / frames.length;
    };
    expect(share(13)).toBeGreaterThan(0.9);
    expect(share(11)).toBeGreaterThan(0.4);
  });

  it('reads 300 baud of HF', () => {
    const frames = someFrames(2, 15);
    const got = heard(soundOf(frames, { rateHz: 8000, tones: HF_300 }), 8000, decoder, HF_300);
    expect(hexOf(got)).toEqual(frames.map(toHex));
  });
});

describe('sequence detection', () => {
  // Half at about 6.1 dB with repairs, 6.5 without.
  it('reads at 8 dB what slicers do not', () => {
    const rateHz = 11_025;
    const frames = someFrames(15, 21);
    const share = (decoder: DecoderName): number => {
      const sound = soundOf(frames, { rateHz });
      addNoise(sound, noiseDeviation(10 ** -1.2 / 2, { ebN0Db: 8, baud: 1200, rateHz }), seededDice(22));
      return heard(sound, rateHz, decoder).length / frames.length;
    };
    expect(share('default')).toBeGreaterThan(0.7);
    expect(share('light')).toBeLessThan(0.2);
  });

  it.each([
    ['offset of both tones by 50 Hz', { baud: 1200, markHz: 1250, spaceHz: 2250 }, 0],
    ['clocks apart by 200 ppm', { baud: 1200.24, markHz: 1200, spaceHz: 2200 }, 0],
    ['twist of 12 dB', BELL_202, 12],
    ['twist of −12 dB', BELL_202, -12],
  ])('goes along with an %s', (_, tones, twistDb) => {
    const frames = someFrames(4, 23);
    const sound = soundOf(frames, { rateHz: 11_025, tones, twistDb });
    expect(hexOf(heard(sound, 11_025, 'default'))).toEqual(frames.map(toHex));
  });

  it('reads a frame that silence follows, wherever it begins', () => {
    const [frame] = someFrames(1, 24) as [Uint8Array];
    const sound = soundOf([frame], { rateHz: 8000, tones: HF_300 });
    for (let i = 0; i < 12; i++) {
      const later = new Float32Array(sound.length + 1000 + 71 * i);
      later.set(sound, 1000 + 71 * i);
      expect(hexOf(heard(later, 8000, 'default', HF_300))).toEqual([toHex(frame)]);
    }
  });
});

describe('twist', () => {
  it('is measured, and the wide decoder reads through twelve decibels of it either way', () => {
    const rateHz = 22_050;
    const frames = someFrames(6, 16);
    for (const twistDb of [-12, -6, 6, 12]) {
      const got = heard(soundOf(frames, { rateHz, twistDb }), rateHz, 'wide');
      expect(hexOf(got)).toEqual(frames.map(toHex));
      expect(Math.abs((got[0]?.twistDb ?? 0) - twistDb)).toBeLessThan(2.5);
    }
  });

  // arithmetic: 20 log(2200/1200).
  it('of pre-emphasis is 5.26 dB between the tones of Bell 202', () =>
    expect(preEmphasisDb(BELL_202)).toBeCloseTo(5.264, 2));
});

it('a low-pass passes what is steady as it is', () => {
  for (const taps of [9, 33]) expect(lowPass(0.1, taps).reduce((sum, tap) => sum + tap, 0)).toBeCloseTo(1, 5);
});

it('a rate that cannot be is refused', () => {
  for (const rateHz of [1, 7999, 1_000_000, NaN]) expect(() => new Demodulator(rateHz)).toThrow(RangeError);
});

it('what is gained at one frequency by pre-emphasis is lost by de-emphasis', () => {
  const [pre, de] = [new Emphasis(48_000, 'pre'), new Emphasis(48_000, 'de')];
  for (const hz of [300, 1000, 2200]) expect(pre.gainAt(hz) * de.gainAt(hz)).toBeCloseTo(1, 6);
  // 750 µs: 5.17 dB between the tones.
  expect(20 * Math.log10(de.gainAt(1200) / de.gainAt(2200))).toBeCloseTo(5.17, 1);
});

it('the raised cosine is smooth where its formula divides by nothing', () => {
  const edge = 1 / (2 * (4 * (1 - MEAN_POWER)));
  expect(raisedCosine(edge)).toBeCloseTo((raisedCosine(edge - 1e-4) + raisedCosine(edge + 1e-4)) / 2, 6);
});

import fc from 'fast-check';
import { toHex } from '../bits/octets.js';
import { seededDice } from '../network/dice.js';
import { ClickBlanker } from './click-blanker.js';
import { Demodulator, DECODERS, type DecoderName } from './demodulator.js';
import {
  backToBack,
  cutPreambles,
  inWhiteNoise,
  mixed,
  throughFm,
  unlikeLevels,
  type Condition,
} from './generator/conditions.js';
import { addNoise, noiseDeviation } from './generator/noise.js';
import { SpeechLike } from './generator/speech.js';
import { addTone } from './generator/faults.js';
import { inventedFrames, joined, transmission } from './generator/track.js';

const FRAMES = inventedFrames(20, seededDice(1), { from: 20, to: 180 });

/** The share that was read; nothing else may be, and nothing twice. */
function readShare(condition: Condition, decoder: DecoderName = 'default', frames = FRAMES): number {
  const demodulator = new Demodulator(condition.rateHz, decoder);
  const got = [...condition.sounds(frames, seededDice(2)), new Float32Array(condition.rateHz)].flatMap(
    (sound) => demodulator.push(sound).map(({ raw }) => toHex(raw)),
  );
  const sent = frames.map(toHex);
  expect(sent).toEqual(expect.arrayContaining(got));
  expect(new Set(got).size).toBe(got.length);
  return got.length / frames.length;
}

describe('the default decoder reads', () => {
  const conditions: readonly (readonly [Condition, number])[] = [
    [throughFm(3.5, true), 0.8],
    [throughFm(3.5, false), 0.8],
    [mixed(22_050, 13), 1],
    [backToBack(22_050, 10), 1],
    [unlikeLevels(22_050, 11, 20), 1],
    [cutPreambles(22_050, 12), 1],
    [cutPreambles(22_050, 8), 0.6],
    [inWhiteNoise('twist 12 dB', 22_050, 14, () => ({ twistDb: 12 })), 1],
    [inWhiteNoise('twist −12 dB', 22_050, 14, () => ({ twistDb: -12 })), 1],
    [inWhiteNoise('8 kHz', 8000, 8, () => ({})), 1],
    [inWhiteNoise('48 kHz', 48_000, 8, () => ({})), 1],
  ];
  it.each(conditions.map(([condition, share]) => [condition.name, share, condition] as const))(
    '%s: of all at least %f',
    (_, share, condition) => expect(readShare(condition)).toBeGreaterThanOrEqual(share),
  );

  // Half at 5.4 dB; without the repair at 5.9.
  it('half of frames of 999 bits below 6 dB, and says what it repaired', () => {
    const frames = inventedFrames(30, seededDice(3), { from: 104, to: 104 });
    const condition = inWhiteNoise('6 dB', 11_025, 6);
    expect(readShare(condition, 'default', frames)).toBeGreaterThan(0.5);
    const demodulator = new Demodulator(condition.rateHz);
    const repairs = [...condition.sounds(frames, seededDice(2))].flatMap((sound) =>
      demodulator.push(sound).map((frame) => frame.repairs),
    );
    expect(Math.max(...repairs)).toBeGreaterThan(0);
    expect(Math.max(...repairs)).toBeLessThanOrEqual(2);
  });
});

it('slicers read through FM what is well above its threshold', () => {
  for (const decoder of ['light', 'wide'] as const)
    expect(readShare(throughFm(11, true), decoder, FRAMES.slice(0, 8))).toBeGreaterThan(0.8);
});

it('noise and sound like speech hold no frames', () => {
  const speech = new SpeechLike(22_050, seededDice(4)).next(22_050 * 30);
  const [frame] = FRAMES as [Uint8Array];
  const sound = transmission([frame], { rateHz: 22_050 });
  for (const decoder of DECODERS) {
    const demodulator = new Demodulator(22_050, decoder);
    expect(demodulator.push(speech)).toEqual([]);
    // It was listening all the time.
    const heard = demodulator.push(joined([sound, new Float32Array(22_050)]));
    expect(heard.map(({ raw }) => toHex(raw))).toEqual([toHex(frame)]);
  }
});

it('counts what was no frame, whichever way it decodes', () => {
  const rateHz = 22_050;
  const sound = transmission(FRAMES.slice(0, 3), { rateHz });
  // A click of ten milliseconds in the middle of the second frame.
  const from = Math.floor(sound.length / 2);
  sound.fill(0, from, from + rateHz / 100);
  for (const decoder of DECODERS) {
    const demodulator = new Demodulator(rateHz, decoder);
    demodulator.push(joined([sound, new Float32Array(rateHz)]));
    const { discards } = demodulator;
    expect(Object.values(discards).reduce((a, b) => a + b)).toBeGreaterThanOrEqual(1);
  }
  const clean = new Demodulator(rateHz, 'light');
  clean.push(joined([transmission(FRAMES.slice(0, 3), { rateHz }), new Float32Array(rateHz)]));
  expect(clean.discards).toEqual({ 'bad FCS': 0, aborted: 0, 'too long': 0, 'not whole octets': 0 });
});

it('a frame is known within 0.3 seconds of its end', () => {
  const rateHz = 22_050;
  const [frame] = FRAMES as [Uint8Array];
  const sound = transmission([frame], { rateHz, pauseMs: 0 });
  const demodulator = new Demodulator(rateHz);
  let known = 0;
  const piece = new Float32Array(rateHz / 100);
  expect(demodulator.push(sound)).toEqual([]);
  for (let ms = 10; known === 0 && ms < 1000; ms += 10) if (demodulator.push(piece).length > 0) known = ms;
  // The tail of 20 ms, three flags, lies between the end of the frame and that of the sound.
  expect(known).toBeGreaterThan(0);
  expect(known + 20).toBeLessThanOrEqual(310);
});

it('what comes out does not depend on how the sound is cut, repairs and all', () => {
  const rateHz = 11_025;
  const frames = inventedFrames(4, seededDice(5), { from: 104, to: 104 });
  const sounds = [...inWhiteNoise('', rateHz, 6, () => ({})).sounds(frames, seededDice(6))];
  const sound = joined([...sounds, new Float32Array(rateHz)]);
  const whole = new Demodulator(rateHz).push(sound);
  expect(whole.length).toBeGreaterThan(1);
  fc.assert(
    fc.property(fc.array(fc.integer({ min: 1, max: 9000 }), { minLength: 1, maxLength: 8 }), (cuts) => {
      const demodulator = new Demodulator(rateHz);
      const pieces = [];
      for (let at = 0, i = 0; at < sound.length; i++) {
        const to = at + (cuts[i % cuts.length] as number);
        pieces.push(...demodulator.push(sound.subarray(at, to)));
        at = to;
      }
      expect(pieces.map(({ raw, repairs, atMs }) => [toHex(raw), repairs, atMs])).toEqual(
        whole.map(({ raw, repairs, atMs }) => [toHex(raw), repairs, atMs]),
      );
    }),
    { numRuns: 4 },
  );
});

it('sound of any numbers is decoded to the end, and real sound after it is read', () => {
  const [frame] = FRAMES as [Uint8Array];
  const sound = joined([transmission([frame], { rateHz: 8000 }), new Float32Array(8000)]);
  fc.assert(
    fc.property(
      fc.constantFrom(...DECODERS),
      fc.float32Array({ minLength: 1, maxLength: 300 }),
      (decoder, any) => {
        const demodulator = new Demodulator(8000, decoder);
        demodulator.push(any);
        demodulator.push(new Float32Array(4000));
        expect(demodulator.push(sound).map(({ raw }) => toHex(raw))).toEqual([toHex(frame)]);
      },
    ),
    { numRuns: 40 },
  );
});

describe('the click blanker', () => {
  const RATE_HZ = 48_000;
  const through = (samples: Float32Array): Float32Array => {
    const out = new Float32Array(samples.length);
    new ClickBlanker(RATE_HZ).push(samples, out);
    return out;
  };

  it('leaves a tone as it is, late by its delay, and puts silence in place of a click', () => {
    const tone = new Float32Array(RATE_HZ);
    addTone(tone, RATE_HZ, 1700, 0.2);
    const { delay } = new ClickBlanker(RATE_HZ);
    const clicked = tone.slice();
    const at = RATE_HZ / 2;
    clicked[at] = 0.9;
    const out = through(clicked);
    const changed: number[] = [];
    for (let i = RATE_HZ / 4; i < RATE_HZ; i++)
      if (Math.abs((out[i] as number) - (tone[i - delay] as number)) > 0.03) changed.push(i - delay);
    // A tenth of a millisecond on either side.
    expect(Math.min(...changed)).toBeGreaterThanOrEqual(at - 5);
    expect(Math.max(...changed)).toBeLessThanOrEqual(at + 5);
    expect(changed.length).toBeGreaterThan(5);
    expect(out[at + delay]).toBe(0);
  });

  it('lets a station through some milliseconds after silence', () => {
    const sound = new Float32Array(RATE_HZ);
    addTone(sound.subarray(RATE_HZ / 2), RATE_HZ, 1700, 0.2);
    const out = through(sound);
    const from = RATE_HZ / 2 + RATE_HZ / 100;
    const blanked = out.subarray(from, from + RATE_HZ / 10).filter((sample) => sample === 0).length;
    expect(blanked).toBeLessThan(10);
  });

  it('takes an offset away', () => {
    const out = through(new Float32Array(RATE_HZ).fill(0.3));
    expect(Math.abs(out.at(-1) as number)).toBeLessThan(0.001);
  });
});

it('of two decoders at one place the one without repair is believed', () => {
  // Noise so strong that some frames need repair in one branch and not in another: none may come out twice or wrong.
  const rateHz = 22_050;
  const sound = joined(
    FRAMES.map((frame) => {
      const one = transmission([frame], { rateHz });
      addNoise(
        one,
        noiseDeviation(10 ** -1.2 / 2, { ebN0Db: 6.5, baud: 1200, rateHz }),
        seededDice(one.length),
      );
      return one;
    }),
  );
  const got = new Demodulator(rateHz).push(sound).map(({ raw }) => toHex(raw));
  expect(FRAMES.map(toHex)).toEqual(expect.arrayContaining(got));
  expect(new Set(got).size).toBe(got.length);
  expect(got.length).toBeGreaterThan(FRAMES.length / 2);
});

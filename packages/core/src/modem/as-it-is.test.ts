import { seededDice } from '../network/dice.js';
import { BasebandModulator } from './baseband/modulator.js';
import { Demodulator, type DecoderName, type DemodulatedFrame } from './demodulator.js';
import { inWhiteNoise, mixed, throughFm, unlikeLevels, type Condition } from './generator/conditions.js';
import { addNoise, noiseDeviation } from './generator/noise.js';
import { SpeechLike } from './generator/speech.js';
import { inventedFrames, transmission } from './generator/track.js';
import { SoundMeter, type SoundMeasures } from './measuring/sound-meter.js';
import { transmissionBits } from './modulator.js';
import { HF_300, SCRAMBLED_9600, type Modulation } from './tones.js';

/**
 * The modem as it is, near its threshold, where any change of it moves what is read: frames, choices turned round, and the
 * sums of what was measured. Whoever means a change takes the new figures over, once `./mistpeak benchmark modem` is better.
 */
const FRAMES = inventedFrames(24, seededDice(11), { from: 30, to: 90 });

interface Figures {
  readonly read: number;
  readonly repaired: number;
  readonly sums: readonly number[];
}

const sum = (
  frames: readonly DemodulatedFrame[],
  of: (frame: DemodulatedFrame) => number | undefined,
): number => frames.reduce((total, frame) => total + (of(frame) ?? 0), 0);

function figuresOf(frames: readonly DemodulatedFrame[]): Figures {
  return {
    read: frames.length,
    repaired: sum(frames, ({ repairs }) => repairs),
    sums: [
      sum(frames, ({ levelDbfs }) => levelDbfs),
      sum(frames, ({ twistDb }) => twistDb),
      sum(frames, ({ markErrorHz }) => markErrorHz),
      sum(frames, ({ spaceErrorHz }) => spaceErrorHz),
      sum(frames, ({ baudErrorPpm }) => baudErrorPpm) / 100,
      sum(frames, ({ preambleMs }) => preambleMs) / 100,
      sum(frames, ({ ebN0Db }) => ebN0Db),
      sum(frames, ({ atMs }) => atMs) / 1000,
    ].map((one) => Math.round(one * 100) / 100),
  };
}

function decoded(
  sounds: Iterable<Float32Array>,
  rateHz: number,
  decoder: DecoderName,
  modulation?: Modulation,
): Figures {
  const demodulator = new Demodulator(rateHz, decoder, modulation);
  const frames: DemodulatedFrame[] = [];
  for (const sound of sounds) frames.push(...demodulator.push(sound));
  frames.push(...demodulator.push(new Float32Array(rateHz)));
  return figuresOf(frames);
}

const heard = (condition: Condition, decoder: DecoderName, frames = FRAMES): Figures =>
  decoded(condition.sounds(frames, seededDice(12)), condition.rateHz, decoder);

function* scrambled(ebN0Db: number): Iterable<Float32Array> {
  const rateHz = 48_000;
  const dice = seededDice(13);
  for (const frame of FRAMES) {
    const bits = transmissionBits([frame], SCRAMBLED_9600, { txDelayMs: 30, txTailMs: 10 });
    const sent = new BasebandModulator({ rateHz, levelDbfs: -12 }).push(bits);
    const sound = new Float32Array(sent.length + 2000);
    sound.set(sent);
    const power = sent.reduce((total, x) => total + x * x, 0) / sent.length;
    addNoise(sound, noiseDeviation(power, { ebN0Db, baud: 9600, rateHz }), dice);
    yield sound;
  }
}

function* onHf(ebN0Db: number): Iterable<Float32Array> {
  const rateHz = 8000;
  const dice = seededDice(16);
  for (const frame of FRAMES.slice(0, 10)) {
    const sound = transmission([frame], { rateHz, tones: HF_300, levelDbfs: -12 });
    addNoise(sound, noiseDeviation(10 ** -1.2 / 2, { ebN0Db, baud: 300, rateHz }), dice);
    yield sound;
  }
}

const AS_IT_IS: Readonly<Record<string, Figures>> = {
  light: { read: 23, repaired: 0, sums: [-247.58, 0.52, -19.35, 19.2, -5.08, 35.4, 263.7, 221.34] },
  wide: { read: 12, repaired: 0, sums: [-141.54, -2.04, -0.9, 4.34, 3.7, 18.73, 131.8, 106.21] },
  'default, white noise': {
    read: 22,
    repaired: 6,
    sums: [-190.29, 1.43, -51.27, 17.41, -2.87, 31.87, 132.7, 223.2],
  },
  'default, all faults at once': {
    read: 17,
    repaired: 9,
    sums: [-177.05, 6.03, -14.22, -42.95, 12.96, 21.93, 105.76, 162.26],
  },
  'default, through FM with clicks': {
    read: 6,
    repaired: 4,
    sums: [-66.16, -30.25, -26.37, 15.46, -2.1, 4.33, 8.21, 19.56],
  },
  'default, a weak one after a loud one': {
    read: 19,
    repaired: 4,
    sums: [-346.16, 0.36, 11.61, -20.44, 0.52, 19.33, 320.88, 154.77],
  },
  HF: { read: 10, repaired: 4, sums: [-63.5, -0.9, 19.9, -45.58, 16.8, 12, 58.97, 105.23] },
  '9600 baud': { read: 24, repaired: 8, sums: [-295.54, 0, 0, 0, -1.19, 6.73, 187.14, 42.82] },
};

describe('the modem as it is', () => {
  const cases: readonly (readonly [string, () => Figures])[] = [
    ['light', () => heard(inWhiteNoise('', 11_025, 11.5), 'light')],
    [
      'wide',
      () =>
        heard(
          inWhiteNoise('', 22_050, 11, (i) => ({ twistDb: 6 * Math.sin(i) })),
          'wide',
        ),
    ],
    ['default, white noise', () => heard(inWhiteNoise('', 11_025, 6), 'default')],
    ['default, all faults at once', () => heard(mixed(22_050, 8), 'default')],
    ['default, through FM with clicks', () => heard(throughFm(2.5, true), 'default', FRAMES.slice(0, 8))],
    ['default, a weak one after a loud one', () => heard(unlikeLevels(11_025, 6.5, 20), 'default')],
    ['HF', () => decoded(onHf(7), 8000, 'default', HF_300)],
    ['9600 baud', () => decoded(scrambled(8), 48_000, 'default', SCRAMBLED_9600)],
  ];
  it.each(cases)('%s', (name, figures) => {
    const { sums, ...counts } = figures();
    const { sums: known, ...knownCounts } = AS_IT_IS[name] as Figures;
    expect(counts).toEqual(knownCounts);
    expect(sums).toEqual(known.map((one) => expect.closeTo(one, 1) as number));
  });

  it('the meter', () => {
    const meter = new SoundMeter(22_050);
    const speech = new SpeechLike(22_050, seededDice(14)).next(22_050 * 5);
    addNoise(speech, 0.01, seededDice(15));
    meter.push(speech);
    const { rmsDbfs, peakDbfs, offset, clippedShare, noiseFloorDbfs } = meter.read() as SoundMeasures;
    const figures = [rmsDbfs, peakDbfs, 1000 * offset, 1000 * clippedShare, noiseFloorDbfs];
    expect(figures).toEqual([-12.56, 0.26, 7.54, 0, -37.14].map((one) => expect.closeTo(one, 1) as number));
  });
});

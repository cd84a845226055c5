import { toHex } from '@mistpeak/core/bits/octets';
import { frameBits } from '@mistpeak/core/hdlc/bit-stream';
import { BasebandModulator } from '@mistpeak/core/modem/baseband/modulator';
import { DECODERS, Demodulator } from '@mistpeak/core/modem/demodulator';
import {
  backToBack,
  cutPreambles,
  inWhiteNoise,
  mixed,
  throughFm,
  unlikeLevels,
  type Condition,
} from '@mistpeak/core/modem/generator/conditions';
import { addNoise, noiseDeviation } from '@mistpeak/core/modem/generator/noise';
import { meanPower } from '@mistpeak/core/modem/measuring/level';
import { SpeechLike } from '@mistpeak/core/modem/generator/speech';
import { inventedFrames } from '@mistpeak/core/modem/generator/track';
import { transmissionBits } from '@mistpeak/core/modem/modulator';
import { SCRAMBLED_9600 } from '@mistpeak/core/modem/tones';
import { seededDice } from '@mistpeak/core/network/dice';

/** More: smaller errors. MISTPEAK_FRAMES of the environment sets it. */
const FRAMES = Number(process.env.MISTPEAK_FRAMES ?? 60);
const NOISE_MINUTES = Number(process.env.MISTPEAK_NOISE_MINUTES ?? 10);
/** Frames of some 993 bits, and of all lengths. */
const LONG = inventedFrames(FRAMES, seededDice(1), { from: 104, to: 104 });
const ALL = inventedFrames(FRAMES, seededDice(2), { from: 20, to: 230 });

/** Frames read under known conditions, beside bounds of theory; false frames; times real time. */
export function modemBenchmark(): void {
  whiteNoise();
  fm();
  faults();
  baseband();
  inNoise();
}

const percent = (share: number): string => `${(100 * share).toFixed(0)} %`.padStart(6);
const line = (name: string, shares: readonly number[], note = ''): void =>
  console.log(`  ${name.padEnd(34)}${shares.map(percent).join('')}${note}`);
/** Given for each level what each decoder reads. */
const lines = (shares: readonly (readonly number[])[]): void =>
  DECODERS.forEach((decoder, i) =>
    line(
      decoder,
      shares.map((one) => one[i] as number),
    ),
  );
const head = (name: string, values: readonly number[]): void =>
  console.log(`\n  ${name.padEnd(34)}${values.map((one) => String(one).padStart(6)).join('')}`);

function whiteNoise(): void {
  const levels = [5, 5.5, 6, 7, 8, 9, 10, 11, 12, 13];
  const bits = Math.round(LONG.reduce((sum, frame) => sum + frameBits(frame).length, 0) / FRAMES);
  head(`white noise, ${bits} bits, Eb/N0 dB`, levels);
  const linear = (db: number): number => 10 ** (db / 10);
  // Proakis, Digital Communications: non-coherent orthogonal tones, Pe = ½ exp(−Eb/2N0); every bit must be right.
  line(
    'bit by bit, non-coherent, bound',
    levels.map((db) => (1 - Math.exp(-linear(db) / 2) / 2) ** bits),
  );
  // Shortest way between two sequences with h = 5/6: d² = 2 (1 − sin 2πh / 2πh), every other bit may begin one (Proakis, CPM).
  const distance = 2 * (1 - Math.sin((10 * Math.PI) / 6) / ((10 * Math.PI) / 6));
  const event = (db: number): number => tail(Math.sqrt(distance * linear(db))) / 2;
  line(
    'coherent sequences, bound',
    levels.map((db) => (1 - event(db)) ** bits),
  );
  lines(levels.map((db) => readShares(inWhiteNoise(`white noise, ${db} dB`, 11_025, db), LONG)));
}

/** Of the normal distribution (Abramowitz and Stegun 7.1.26, error below 1.5e−7). */
function tail(x: number): number {
  const t = 1 / (1 + (0.3275911 * x) / Math.SQRT2);
  const series = [1.061405429, -1.453152027, 1.421413741, -0.284496736, 0.254829592].reduce(
    (sum, factor) => (sum + factor) * t,
    0,
  );
  return (series * Math.exp((-x * x) / 2)) / 2;
}

function fm(): void {
  const levels = [2, 2.5, 3, 4, 5, 7, 8, 9, 10];
  for (const deEmphasis of [true, false]) {
    head(`FM, ${deEmphasis ? 'de-emphasised' : 'flat'}, CNR dB in 15 kHz`, levels);
    lines(levels.map((db) => readShares(throughFm(db, deEmphasis), LONG)));
  }
}

function faults(): void {
  const conditions: readonly Condition[] = [
    ...[-12, -6, 6, 12].map((twistDb) =>
      inWhiteNoise(`twist ${twistDb} dB, 12 dB`, 22_050, 12, () => ({ twistDb })),
    ),
    mixed(22_050, 13),
    backToBack(22_050, 10),
    unlikeLevels(22_050, 10, 20),
    cutPreambles(22_050, 12),
    cutPreambles(22_050, 8),
    ...[8000, 11_025, 22_050, 48_000].flatMap((rateHz) =>
      [7, 10].map((db) => inWhiteNoise(`${rateHz} Hz, ${db} dB`, rateHz, db)),
    ),
  ];
  console.log(`\n  ${'frames of all lengths'.padEnd(34)}${DECODERS.map((one) => one.padStart(9)).join('')}`);
  for (const condition of conditions)
    console.log(
      `  ${condition.name.padEnd(34)}${readShares(condition, ALL)
        .map((share) => percent(share).padStart(9))
        .join('')}`,
    );
}

/** What each decoder reads of the same sound, in their order. */
function readShares(condition: Condition, frames: readonly Uint8Array[]): readonly number[] {
  const all = DECODERS.map((decoder) => ({
    decoder,
    demodulator: new Demodulator(condition.rateHz, decoder),
    got: [] as string[],
  }));
  const listen = (sound: Float32Array): void => {
    for (const { demodulator, got } of all) got.push(...demodulator.push(sound).map(({ raw }) => toHex(raw)));
  };
  for (const sound of condition.sounds(frames, seededDice(2))) listen(sound);
  listen(new Float32Array(condition.rateHz));
  const wanted = new Set(frames.map(toHex));
  return all.map(({ decoder, got }) => {
    const right = new Set(got.filter((hex) => wanted.has(hex)));
    const others = got.length - right.size;
    if (others > 0) console.log(`  ${condition.name}, ${decoder}: ${others} frames not sent, or twice`);
    return right.size / frames.length;
  });
}

function baseband(): void {
  const levels = [7, 8, 9, 10, 12];
  const rateHz = 48_000;
  head('9600 baud, white noise, Eb/N0 dB', levels);
  for (const decoder of DECODERS)
    line(
      decoder,
      levels.map((ebN0Db) => {
        const noise = seededDice(2);
        const demodulator = new Demodulator(rateHz, decoder, SCRAMBLED_9600);
        const modulator = new BasebandModulator({ rateHz, levelDbfs: -12 });
        let read = 0;
        for (const frame of LONG) {
          const sent = modulator.push(
            transmissionBits([frame], SCRAMBLED_9600, { txDelayMs: 50, txTailMs: 10 }),
          );
          addNoise(sent, noiseDeviation(meanPower(sent), { ebN0Db, baud: 9600, rateHz }), noise);
          read += demodulator.push(sent).length;
        }
        return read / FRAMES;
      }),
    );
}

/** White noise and sound like speech, minute by minute in turn. */
function inNoise(): void {
  const dice = seededDice(3);
  const speech = new SpeechLike(44_100, dice);
  const all = DECODERS.map((decoder) => ({
    decoder,
    demodulator: new Demodulator(44_100, decoder),
    falseFrames: 0,
    ms: 0,
  }));
  for (let minute = 0; minute < NOISE_MINUTES; minute++) {
    const sound = minute % 2 ? speech.next(44_100 * 60) : new Float32Array(44_100 * 60);
    if (minute % 2 === 0) addNoise(sound, 0.2, dice);
    for (const one of all) {
      const begun = performance.now();
      one.falseFrames += one.demodulator.push(sound).length;
      one.ms += performance.now() - begun;
    }
  }
  console.log(`\n  ${NOISE_MINUTES} minutes of noise and speech at 44.1 kHz`);
  for (const { decoder, falseFrames, ms } of all)
    console.log(
      `  ${decoder.padEnd(34)}${((falseFrames * 60) / NOISE_MINUTES).toFixed(1)} false frames an hour, ${((NOISE_MINUTES * 60_000) / ms).toFixed(0)} × real time`,
    );
}

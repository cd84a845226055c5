import { encodeFrame, uiFrame } from '@mistpeak/core/ax25/frame';
import { fromLatin1, toHex } from '@mistpeak/core/bits/octets';
import { frameBits } from '@mistpeak/core/hdlc/bit-stream';
import { DECODERS, Demodulator, type DecoderName } from '@mistpeak/core/modem/demodulator';
import { AfskModulator, transmissionBits } from '@mistpeak/core/modem/modulator';
import { addNoise, meanPower, noiseDeviation } from '@mistpeak/core/modem/generator/noise';
import { BELL_202 } from '@mistpeak/core/modem/tones';
import { seededDice } from '@mistpeak/core/network/dice';

const RATE_HZ = 11_025;
const FRAMES = 60;
const TEXT_OCTETS = 104;
const EBN0_DB = [5, 6, 7, 8, 9, 10, 11, 12, 13];
const NOISE_MINUTES = 10;

/** Frames of some 993 bits in white noise, beside the bound of a decision bit by bit; false frames in noise; times real time. */
export function modemBenchmark(): void {
  const dice = seededDice(1);
  const frames = Array.from({ length: FRAMES }, () => {
    const text = Array.from({ length: TEXT_OCTETS }, () => String.fromCharCode(33 + Math.floor(dice() * 90)));
    return encodeFrame(uiFrame('QH4MPK-7', 'APZMPK', [], fromLatin1(text.join(''))));
  });
  const bits = Math.round(frames.reduce((sum, frame) => sum + frameBits(frame).length, 0) / FRAMES);
  console.log(`  Eb/N0, dB        ${EBN0_DB.map((db) => String(db).padStart(5)).join('')}`);
  // Proakis, Digital Communications: non-coherent orthogonal tones, Pe = ½ exp(−Eb/2N0); every bit must be right.
  const bound = EBN0_DB.map((db) => (1 - Math.exp(-(10 ** (db / 10)) / 2) / 2) ** bits);
  console.log(`  bit by bit, bound${bound.map(percent).join('')}   (${bits} bits, non-coherent)`);
  for (const decoder of DECODERS) {
    const shares = EBN0_DB.map((db) => readShare(frames, decoder, db));
    console.log(`  ${decoder.padEnd(17)}${shares.map(percent).join('')}`);
  }
  for (const decoder of DECODERS) {
    const { falseFrames, timesRealTime } = inNoise(decoder);
    console.log(
      `  ${decoder.padEnd(8)} ${falseFrames} false frames in ${NOISE_MINUTES} min of noise at 44.1 kHz, ${timesRealTime.toFixed(0)} × real time`,
    );
  }
}

const percent = (share: number): string => `${(100 * share).toFixed(0)} %`.padStart(5);

function readShare(frames: readonly Uint8Array[], decoder: DecoderName, ebN0Db: number): number {
  const noise = seededDice(2);
  const demodulator = new Demodulator(RATE_HZ, decoder);
  const modulator = new AfskModulator({ rateHz: RATE_HZ, levelDbfs: -12 });
  const wanted = new Set(frames.map(toHex));
  let read = 0;
  const listen = (sound: Float32Array): void => {
    for (const { raw } of demodulator.push(sound)) if (wanted.has(toHex(raw))) read++;
  };
  for (const frame of frames) {
    const sent = modulator.push(transmissionBits([frame], BELL_202, { txDelayMs: 300, txTailMs: 20 }));
    const sound = new Float32Array(sent.length + RATE_HZ / 5);
    sound.set(sent);
    addNoise(sound, noiseDeviation(meanPower(sent), { ebN0Db, baud: 1200, rateHz: RATE_HZ }), noise);
    listen(sound);
  }
  listen(new Float32Array(RATE_HZ));
  return read / frames.length;
}

function inNoise(decoder: DecoderName): { falseFrames: number; timesRealTime: number } {
  const minute = new Float32Array(44_100 * 60);
  addNoise(minute, 0.2, seededDice(3));
  const demodulator = new Demodulator(44_100, decoder);
  let falseFrames = 0;
  const begun = performance.now();
  for (let i = 0; i < NOISE_MINUTES; i++) falseFrames += demodulator.push(minute).length;
  return { falseFrames, timesRealTime: (NOISE_MINUTES * 60_000) / (performance.now() - begun) };
}

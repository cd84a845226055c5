import { closeSync, openSync, writeSync } from 'node:fs';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { fromHex } from '@mistpeak/core/bits/octets';
import { AfskModulator, transmissionBits } from '@mistpeak/core/modem/modulator';
import { BELL_202, HF_300, HIGHEST_RATE_HZ, LOWEST_RATE_HZ, type Tones } from '@mistpeak/core/modem/tones';
import { samples16, wavHeader } from '@mistpeak/core/wav/wav';
import { inputLines } from './streams.js';
import { readArguments, wholeNumber, WrongUsage, type Verb } from './verb.js';

/** Quiet between two transmissions. */
const PAUSE_MS = 200;
const TAIL_MS = 20;

export const TONES_OF: Readonly<Record<string, Tones>> = { 1200: BELL_202, 300: HF_300 };

export function tonesOf(baud: string): Tones {
  const tones = TONES_OF[baud];
  if (!tones) throw new WrongUsage(`--baud is one of ${Object.keys(TONES_OF).join(', ')}`);
  return tones;
}

export const modulateVerb: Verb = {
  name: 'modulate',
  usage: 'modulate OUT.wav [--rate 44100] [--txdelay 300] [--level -6] [--baud 1200]',
  about: 'hex frames → 16-bit sound, each frame a transmission of its own',
  async run(args) {
    const { values, positionals } = readArguments(args, {
      rate: { type: 'string', default: '44100' },
      txdelay: { type: 'string', default: '300' },
      level: { type: 'string', default: '-6' },
      baud: { type: 'string', default: '1200' },
    });
    const [file] = positionals;
    if (file === undefined) throw new WrongUsage('modulate needs the name of the file to write');
    const rateHz = wholeNumber(values.rate, LOWEST_RATE_HZ, HIGHEST_RATE_HZ, '--rate');
    const txDelayMs = wholeNumber(values.txdelay, 0, 10_000, '--txdelay');
    const tones = tonesOf(values.baud);
    const modulator = new AfskModulator({ rateHz, levelDbfs: levelOf(values.level), tones });
    const pause = new Uint8Array(2 * Math.round((rateHz * PAUSE_MS) / 1000));
    const out = openSync(file, 'w');
    let octets = 0;
    const write = (part: Uint8Array): void => {
      writeSync(out, part);
      octets += part.length;
    };
    writeSync(out, wavHeader(rateHz, 1, 0));
    write(pause);
    const failed = await eachFrame((frame) => {
      const bits = transmissionBits([frame], tones, { txDelayMs, txTailMs: TAIL_MS });
      write(samples16(modulator.push(bits)));
      write(pause);
    });
    // Now the length is known.
    writeSync(out, wavHeader(rateHz, 1, octets), 0, undefined, 0);
    closeSync(out);
    return failed ? 1 : 0;
  },
};

function levelOf(text: string): number {
  const level = Number(text);
  if (!(level <= 0 && level >= -80)) throw new WrongUsage('--level takes decibels from -80 to 0');
  return level;
}

/** Each line of hex; true if any could not be read. */
async function eachFrame(take: (frame: Uint8Array) => void): Promise<boolean> {
  let line = 0;
  let failed = false;
  for await (const text of inputLines()) {
    line++;
    if (text.trim() === '') continue;
    const frame = fromHex(text);
    if (!isMalformed(frame)) {
      take(frame);
      continue;
    }
    failed = true;
    console.error(`line ${line}: ${frame.malformed}`);
  }
  return failed;
}

import { closeSync, openSync, writeSync } from 'node:fs';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { fromHex } from '@mistpeak/core/bits/octets';
import { BasebandModulator } from '@mistpeak/core/modem/baseband/modulator';
import { AfskModulator, keyingTone, preEmphasisDb, transmissionBits } from '@mistpeak/core/modem/modulator';
import {
  BELL_202,
  HF_300,
  HIGHEST_RATE_HZ,
  isBaseband,
  lowestRateHz,
  SCRAMBLED_9600,
  type Modulation,
} from '@mistpeak/core/modem/tones';
import { samples16, wavHeader } from '@mistpeak/core/wav/wav';
import { inputLines } from './streams.js';
import { readArguments, wholeNumber, WrongUsage, type Verb } from './verb.js';

/** Quiet between two transmissions. */
const PAUSE_MS = 200;
const TAIL_MS = 20;

const MODULATIONS: Readonly<Record<string, Modulation>> = {
  1200: BELL_202,
  300: HF_300,
  9600: SCRAMBLED_9600,
};

export function modulationOf(baud: string): Modulation {
  const modulation = MODULATIONS[baud];
  if (!modulation) throw new WrongUsage(`--baud is one of ${Object.keys(MODULATIONS).join(', ')}`);
  return modulation;
}

export const modulateVerb: Verb = {
  name: 'modulate',
  usage: `modulate OUT.wav [--rate 44100] [--txdelay 300] [--level -6] [--baud ${Object.keys(MODULATIONS).join('|')}] [--preemphasis] [--keying HZ]`,
  about: 'hex frames → 16-bit sound, each frame a transmission of its own',
  async run(args) {
    const { values, positionals } = readArguments(args, {
      rate: { type: 'string', default: '44100' },
      txdelay: { type: 'string', default: '300' },
      level: { type: 'string', default: '-6' },
      baud: { type: 'string', default: '1200' },
      preemphasis: { type: 'boolean', default: false },
      keying: { type: 'string' },
    });
    const [file] = positionals;
    if (file === undefined) throw new WrongUsage('modulate needs the name of the file to write');
    const modulation = modulationOf(values.baud);
    const rateHz = wholeNumber(values.rate, lowestRateHz(modulation), HIGHEST_RATE_HZ, '--rate');
    const txDelayMs = wholeNumber(values.txdelay, 0, 10_000, '--txdelay');
    const levelDbfs = levelOf(values.level);
    const keyingHz =
      values.keying === undefined
        ? undefined
        : wholeNumber(values.keying, 1, Math.ceil(rateHz / 2) - 1, '--keying');
    const modulator = modulatorOf(modulation, rateHz, levelDbfs, values.preemphasis);
    const file16 = new File16(file, rateHz, keyingHz, levelDbfs);
    file16.pause();
    const failed = await eachFrame((frame) => {
      file16.write(modulator.push(transmissionBits([frame], modulation, { txDelayMs, txTailMs: TAIL_MS })));
      file16.pause();
    });
    file16.close();
    return failed ? 1 : 0;
  },
};

function modulatorOf(
  modulation: Modulation,
  rateHz: number,
  levelDbfs: number,
  preEmphasis: boolean,
): AfskModulator | BasebandModulator {
  if (!isBaseband(modulation))
    return new AfskModulator({
      rateHz,
      levelDbfs,
      tones: modulation,
      twistDb: preEmphasis ? preEmphasisDb(modulation) : 0,
    });
  if (preEmphasis) throw new WrongUsage('--preemphasis is for tones; 9600 baud goes past it');
  return new BasebandModulator({ rateHz, levelDbfs, modulation });
}

/** A file of 16-bit samples; with a keying tone it has two channels, the tone on the right one while sound is on the left. */
class File16 {
  private readonly out: number;
  private readonly channels: 1 | 2;
  private octets = 0;

  constructor(
    file: string,
    private readonly rateHz: number,
    private readonly keyingHz: number | undefined,
    private readonly levelDbfs: number,
  ) {
    this.out = openSync(file, 'w');
    this.channels = keyingHz === undefined ? 1 : 2;
    writeSync(this.out, wavHeader(rateHz, this.channels, 0));
  }

  write(sound: Float32Array): void {
    if (this.keyingHz === undefined) return this.append(sound);
    const tone = keyingTone(this.keyingHz, sound.length, this.rateHz, this.levelDbfs);
    const both = new Float32Array(2 * sound.length);
    sound.forEach((sample, i) => {
      both[2 * i] = sample;
      both[2 * i + 1] = tone[i] as number;
    });
    this.append(both);
  }

  pause(): void {
    this.append(new Float32Array(this.channels * Math.round((this.rateHz * PAUSE_MS) / 1000)));
  }

  /** Now the length is known. */
  close(): void {
    writeSync(this.out, wavHeader(this.rateHz, this.channels, this.octets), 0, undefined, 0);
    closeSync(this.out);
  }

  private append(samples: Float32Array): void {
    const octets = samples16(samples);
    writeSync(this.out, octets);
    this.octets += octets.length;
  }
}

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

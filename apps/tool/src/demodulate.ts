import { createReadStream } from 'node:fs';
import { decodeFrame } from '@mistpeak/core/ax25/frame';
import { formatMonitorText } from '@mistpeak/core/ax25/monitor-text';
import { isMalformed, type Malformed } from '@mistpeak/core/bits/malformed';
import { toHex } from '@mistpeak/core/bits/octets';
import {
  DECODERS,
  Demodulator,
  type DemodulatedFrame,
  type DecoderName,
} from '@mistpeak/core/modem/demodulator';
import { HIGHEST_RATE_HZ, LOWEST_RATE_HZ } from '@mistpeak/core/modem/tones';
import { WavDecoder, type WavFormat } from '@mistpeak/core/wav/wav';
import { tonesOf } from './modulate.js';
import { Output } from './streams.js';
import { readArguments, WrongUsage, type Verb } from './verb.js';

const CHANNELS = ['left', 'right', 'mix'] as const;
type Channel = (typeof CHANNELS)[number];

export const demodulateVerb: Verb = {
  name: 'demodulate',
  usage: `demodulate IN.wav [--channel ${CHANNELS.join('|')}] [--decoder ${DECODERS.join('|')}] [--baud 1200]`,
  about: 'sound → JSON lines, one for each frame',
  async run(args) {
    const { values, positionals } = readArguments(args, {
      channel: { type: 'string', default: 'mix' },
      decoder: { type: 'string', default: 'default' },
      baud: { type: 'string', default: '1200' },
    });
    const [file] = positionals;
    if (file === undefined) throw new WrongUsage('demodulate needs the name of a sound file');
    const channel = oneOf(CHANNELS, values.channel, '--channel');
    const decoder = oneOf(DECODERS, values.decoder, '--decoder');
    return demodulateFile(file, channel, decoder, values.baud);
  },
};

function oneOf<Name extends string>(names: readonly Name[], text: string, option: string): Name {
  const name = names.find((one) => one === text);
  if (!name) throw new WrongUsage(`${option} is one of ${names.join(', ')}`);
  return name;
}

/** Piece by piece: an hour of sound takes no more memory than a second. */
async function demodulateFile(
  file: string,
  channel: Channel,
  decoder: DecoderName,
  baud: string,
): Promise<number> {
  const tones = tonesOf(baud);
  const wav = new WavDecoder();
  const output = new Output();
  let demodulator: Demodulator | undefined;
  for await (const octets of createReadStream(file, { highWaterMark: 1 << 16 }) as AsyncIterable<Buffer>) {
    const samples = wav.push(octets);
    if ('malformed' in samples) return refuse(samples);
    if (!wav.format) continue;
    const { rateHz } = wav.format;
    if (rateHz < LOWEST_RATE_HZ || rateHz > HIGHEST_RATE_HZ)
      return refuse({
        malformed: `a sample rate of ${rateHz} Hz: ${LOWEST_RATE_HZ} to ${HIGHEST_RATE_HZ} are read`,
        at: 24,
      });
    demodulator ??= new Demodulator(rateHz, decoder, tones);
    for (const frame of demodulator.push(oneChannel(samples, wav.format, channel)))
      await output.line(lineOf(frame));
  }
  // The last frame is known some time after its end.
  const quiet = new Float32Array(wav.format ? wav.format.rateHz : 0);
  for (const frame of demodulator?.push(quiet) ?? []) await output.line(lineOf(frame));
  await output.flush();
  const failure = wav.end();
  return failure ? refuse(failure) : 0;
}

function refuse({ malformed: why, at }: Malformed): number {
  console.error(`${why} (at ${at})`);
  return 1;
}

function oneChannel(samples: Float32Array, { channels }: WavFormat, channel: Channel): Float32Array {
  if (channels === 1) return samples;
  const frames = samples.length / channels;
  if (channel === 'mix')
    return Float32Array.from({ length: frames }, (_, i) => {
      let sum = 0;
      for (let c = 0; c < channels; c++) sum += samples[i * channels + c] as number;
      return sum / channels;
    });
  const offset = channel === 'left' ? 0 : 1;
  return Float32Array.from({ length: frames }, (_, i) => samples[i * channels + offset] as number);
}

function lineOf({ atMs, raw, levelDbfs, twistDb, repairs }: DemodulatedFrame): string {
  const frame = decodeFrame(raw);
  return JSON.stringify({
    tSeconds: Number((atMs / 1000).toFixed(3)),
    hex: toHex(raw),
    ...(isMalformed(frame) ? {} : { monitor: formatMonitorText(frame) }),
    levelDbfs: Number(levelDbfs.toFixed(1)),
    twistDb: Number(twistDb.toFixed(1)),
    ...(repairs > 0 ? { repairs } : {}),
  });
}

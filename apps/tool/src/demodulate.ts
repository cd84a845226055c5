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
import { SoundMeter, type SoundMeasures } from '@mistpeak/core/modem/measuring/sound-meter';
import { HIGHEST_RATE_HZ, lowestRateHz } from '@mistpeak/core/modem/tones';
import { CHANNELS, oneChannel, type Channel } from '@mistpeak/core/wav/one-channel';
import { WavDecoder } from '@mistpeak/core/wav/wav';
import { modulationOf } from './modulate.js';
import { Output } from './streams.js';
import { readArguments, WrongUsage, type Verb } from './verb.js';

/** At 300 baud the last frame is known after a second and more. */
const QUIET_SECONDS = 1.5;

/** What is to be done with a file. */
interface Task {
  readonly channel: Channel;
  readonly decoder: DecoderName;
  readonly baud: string;
  readonly measures: boolean;
}

export const demodulateVerb: Verb = {
  name: 'demodulate',
  usage: `demodulate IN.wav [--channel ${CHANNELS.join('|')}] [--decoder ${DECODERS.join('|')}] [--baud 1200|300|9600] [--measures]`,
  about:
    'sound → JSON lines, one for each frame; with measures, more of each and one line of the whole sound',
  async run(args) {
    const { values, positionals } = readArguments(args, {
      channel: { type: 'string', default: 'mix' },
      decoder: { type: 'string', default: 'default' },
      baud: { type: 'string', default: '1200' },
      measures: { type: 'boolean', default: false },
    });
    const [file] = positionals;
    if (file === undefined) throw new WrongUsage('demodulate needs the name of a sound file');
    return demodulateFile(file, {
      channel: oneOf(CHANNELS, values.channel, '--channel'),
      decoder: oneOf(DECODERS, values.decoder, '--decoder'),
      baud: values.baud,
      measures: values.measures,
    });
  },
};

function oneOf<Name extends string>(names: readonly Name[], text: string, option: string): Name {
  const name = names.find((one) => one === text);
  if (!name) throw new WrongUsage(`${option} is one of ${names.join(', ')}`);
  return name;
}

/** Piece by piece: an hour of sound takes no more memory than a second. */
async function demodulateFile(file: string, { channel, decoder, baud, measures }: Task): Promise<number> {
  const modulation = modulationOf(baud);
  const wav = new WavDecoder();
  const output = new Output();
  let demodulator: Demodulator | undefined;
  let meter: SoundMeter | undefined;
  for await (const octets of createReadStream(file, { highWaterMark: 1 << 16 }) as AsyncIterable<Buffer>) {
    const samples = wav.push(octets);
    if ('malformed' in samples) return refuse(samples);
    if (!wav.format) continue;
    const { rateHz } = wav.format;
    const lowest = lowestRateHz(modulation);
    if (rateHz < lowest || rateHz > HIGHEST_RATE_HZ)
      return refuse({
        malformed: `a sample rate of ${rateHz} Hz: ${lowest} to ${HIGHEST_RATE_HZ} are read`,
        at: 24,
      });
    demodulator ??= new Demodulator(rateHz, decoder, modulation);
    const sound = oneChannel(samples, wav.format.channels, channel);
    if (measures) (meter ??= new SoundMeter(rateHz)).push(sound);
    for (const frame of demodulator.push(sound)) await output.line(lineOf(frame, measures));
  }
  // The last frame is known some time after its end.
  const quiet = new Float32Array(wav.format ? QUIET_SECONDS * wav.format.rateHz : 0);
  for (const frame of demodulator?.push(quiet) ?? []) await output.line(lineOf(frame, measures));
  const whole = meter?.read();
  if (whole) await output.line(JSON.stringify(rounded(whole)));
  await output.flush();
  const failure = wav.end();
  return failure ? refuse(failure) : 0;
}

const rounded = ({
  rmsDbfs,
  peakDbfs,
  offset,
  clippedShare,
  noiseFloorDbfs,
}: SoundMeasures): SoundMeasures => ({
  rmsDbfs: round(rmsDbfs, 1),
  peakDbfs: round(peakDbfs, 1),
  offset: round(offset, 4),
  clippedShare: round(clippedShare, 4),
  noiseFloorDbfs: round(noiseFloorDbfs, 1),
});

function refuse({ malformed: why, at }: Malformed): number {
  console.error(`${why} (at ${at})`);
  return 1;
}

function lineOf(frame: DemodulatedFrame, measures: boolean): string {
  const { atMs, raw, levelDbfs, twistDb, repairs } = frame;
  const decoded = decodeFrame(raw);
  return JSON.stringify({
    tSeconds: round(atMs / 1000, 3),
    hex: toHex(raw),
    ...(isMalformed(decoded) ? {} : { monitor: formatMonitorText(decoded) }),
    levelDbfs: round(levelDbfs, 1),
    ...(twistDb === undefined ? {} : { twistDb: round(twistDb, 1) }),
    ...(repairs > 0 ? { repairs } : {}),
    ...(measures ? moreOf(frame) : {}),
  });
}

/** In the order of the name; what a modulation does not have is not there. */
function moreOf(frame: DemodulatedFrame): Record<string, number> {
  const names = [
    'markDbfs',
    'spaceDbfs',
    'markErrorHz',
    'spaceErrorHz',
    'baudErrorPpm',
    'preambleMs',
    'ebN0Db',
  ] as const;
  return Object.fromEntries(
    names.flatMap((name) => (frame[name] === undefined ? [] : [[name, round(frame[name], 1)]])),
  );
}

const round = (value: number, places: number): number => Number(value.toFixed(places));

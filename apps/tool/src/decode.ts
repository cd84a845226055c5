import { readFileSync } from 'node:fs';
import type { Modulo } from '@mistpeak/core/ax25/control';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { KissDecoder } from '@mistpeak/core/kiss/codec';
import type { KissDiscard, KissFrame } from '@mistpeak/core/kiss/commands';
import { decodePcap } from '@mistpeak/core/pcap/pcap';
import { decodeOctets, decodeText, refused, type DecodedLine } from './decoded-line.js';
import { inputChunks, inputLines, Output } from './streams.js';
import { readArguments, WrongUsage, type Verb } from './verb.js';

const OPTIONS = {
  pcap: { type: 'string' },
  kiss: { type: 'boolean' },
  modulo: { type: 'string', default: '8' },
} as const;

export const decodeVerb: Verb = {
  name: 'decode',
  usage: 'decode [--pcap FILE | --kiss] [--modulo 8|128]',
  about: 'hex frames or monitor lines (told apart), a capture file, or a binary KISS stream → JSON lines',
  async run(args) {
    const { values } = readArguments(args, OPTIONS);
    if (values.modulo !== '8' && values.modulo !== '128') throw new WrongUsage('--modulo takes 8 or 128');
    if (values.pcap !== undefined && values.kiss) throw new WrongUsage('give either --pcap or --kiss');
    const modulo: Modulo = values.modulo === '8' ? 8 : 128;
    const output = new Output();
    let failed = false;
    for await (const decoded of source(values, modulo)) {
      failed ||= !decoded.ok;
      await output.line(JSON.stringify(decoded));
    }
    await output.flush();
    return failed ? 1 : 0;
  },
};

function source(
  values: { pcap?: string; kiss?: boolean },
  modulo: Modulo,
): AsyncIterable<DecodedLine> | Iterable<DecodedLine> {
  if (values.pcap !== undefined) return fromPcap(values.pcap, modulo);
  return values.kiss ? fromKiss(modulo) : fromLines(modulo);
}

async function* fromLines(modulo: Modulo): AsyncGenerator<DecodedLine> {
  let line = 0;
  for await (const text of inputLines()) {
    line++;
    if (text.trim() !== '') yield decodeText(line, text, modulo);
  }
}

async function* fromKiss(modulo: Modulo): AsyncGenerator<DecodedLine> {
  const decoder = new KissDecoder();
  let line = 0;
  const take = function* (items: (KissFrame | KissDiscard)[]): Generator<DecodedLine> {
    for (const item of items) {
      if ('discarded' in item) yield refused(++line, { malformed: item.discarded, at: 0 }, item.raw);
      else if (item.command === 'data') yield decodeOctets(++line, item.payload, modulo);
    }
  };
  for await (const chunk of inputChunks()) yield* take(decoder.push(chunk));
  yield* take(decoder.end());
}

/** Each record is a KISS type octet and a frame; only data records are frames. */
function* fromPcap(file: string, modulo: Modulo): Generator<DecodedLine> {
  const packets = decodePcap(readFileSync(file));
  if (isMalformed(packets)) throw new Error(`${file}: ${packets.malformed}`);
  for (const [i, packet] of packets.entries()) {
    if (isMalformed(packet)) yield refused(i + 1, packet, new Uint8Array());
    else if (((packet.packet[0] ?? 0) & 15) === 0)
      yield decodeOctets(i + 1, packet.packet.subarray(1), modulo);
  }
}

import { isMalformed } from '@mistpeak/core/bits/malformed';
import { fromHex, toHex } from '@mistpeak/core/bits/octets';
import { encodeKiss, KissDecoder } from '@mistpeak/core/kiss/codec';
import type { KissDiscard, KissFrame } from '@mistpeak/core/kiss/commands';
import { inputChunks, inputLines, Output } from './streams.js';
import { readArguments, wholeNumber, WrongUsage, type Verb } from './verb.js';

export const kissVerb: Verb = {
  name: 'kiss',
  usage: 'kiss wrap [--port N] | kiss unwrap',
  about: 'hex lines ⇄ binary KISS stream; unwrap prints one JSON line for each frame or discard',
  run(args) {
    const { values, positionals } = readArguments(args, { port: { type: 'string', default: '0' } } as const);
    if (positionals[0] === 'wrap') return wrap(wholeNumber(values.port, 0, 15, '--port'));
    if (positionals[0] === 'unwrap') return unwrap();
    throw new WrongUsage('say kiss wrap or kiss unwrap');
  },
};

async function wrap(port: number): Promise<number> {
  const output = new Output();
  let line = 0;
  let failed = false;
  for await (const text of inputLines()) {
    line++;
    if (text.trim() === '') continue;
    const payload = fromHex(text);
    if (isMalformed(payload)) {
      failed = true;
      console.error(`line ${line}: ${payload.malformed}`);
    } else await output.octets(encodeKiss({ port, command: 'data', payload }));
  }
  await output.flush();
  return failed ? 1 : 0;
}

async function unwrap(): Promise<number> {
  const output = new Output();
  const decoder = new KissDecoder();
  let failed = false;
  const print = async (items: (KissFrame | KissDiscard)[]): Promise<void> => {
    for (const item of items) {
      failed ||= 'discarded' in item;
      await output.line(JSON.stringify(printed(item)));
    }
  };
  for await (const chunk of inputChunks()) await print(decoder.push(chunk));
  await print(decoder.end());
  await output.flush();
  return failed ? 1 : 0;
}

function printed(item: KissFrame | KissDiscard): object {
  if ('discarded' in item) return { discarded: item.discarded, octets: item.octets };
  if ('payload' in item) return { port: item.port, command: item.command, hex: toHex(item.payload) };
  return item;
}

import { isMalformed } from '@mistpeak/core/bits/malformed';
import { LARGEST_OCTETS, pack, unpack } from '@mistpeak/core/lzhuf/container';
import { inputWhole, Output } from './streams.js';
import { readArguments, WrongUsage, type Verb } from './verb.js';

export const lzhufVerb: Verb = {
  name: 'lzhuf',
  usage: 'lzhuf pack | lzhuf unpack',
  about: 'octets ⇄ the container of radio mail: CRC-16, length, LZHUF stream',
  async run(args) {
    const { positionals } = readArguments(args, {});
    if (positionals.length !== 1 || !['pack', 'unpack'].includes(positionals[0] as string))
      throw new WrongUsage('say lzhuf pack or lzhuf unpack');
    const given = await inputWhole(LARGEST_OCTETS);
    if (isMalformed(given)) return refuse(given.malformed);
    const made = positionals[0] === 'pack' ? pack(given) : unpack(given);
    if (isMalformed(made)) return refuse(made.malformed);
    const output = new Output();
    await output.octets(made);
    await output.flush();
    return 0;
  },
};

function refuse(words: string): number {
  console.error(words);
  return 1;
}

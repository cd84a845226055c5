import { writeFileSync } from 'node:fs';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { concatOctets, fromHex } from '@mistpeak/core/bits/octets';
import { encodePcap, type CapturedPacket } from '@mistpeak/core/pcap/pcap';
import { inputLines } from './streams.js';
import { readArguments, WrongUsage, type Verb } from './verb.js';

const DATA_ON_PORT_0 = Uint8Array.of(0);

export const pcapVerb: Verb = {
  name: 'pcap',
  usage: 'pcap OUT',
  about: 'hex frames → capture file of link type 202 (AX.25 behind a KISS octet), stamped now',
  async run(args) {
    const { positionals } = readArguments(args, {});
    const [file] = positionals;
    if (file === undefined) throw new WrongUsage('pcap needs the name of the file to write');
    const packets: CapturedPacket[] = [];
    let line = 0;
    let failed = false;
    for await (const text of inputLines()) {
      line++;
      if (text.trim() === '') continue;
      const frame = fromHex(text);
      if (isMalformed(frame)) {
        failed = true;
        console.error(`line ${line}: ${frame.malformed}`);
      } else packets.push({ atMs: Date.now(), packet: concatOctets(DATA_ON_PORT_0, frame) });
    }
    writeFileSync(file, encodePcap(packets));
    return failed ? 1 : 0;
  },
};

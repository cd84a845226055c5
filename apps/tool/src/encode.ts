import { encodeFrame } from '@mistpeak/core/ax25/frame';
import { parseMonitorText } from '@mistpeak/core/ax25/monitor-text';
import { isMalformed } from '@mistpeak/core/bits/malformed';
import { toHex } from '@mistpeak/core/bits/octets';
import { inputLines, Output } from './streams.js';
import type { Verb } from './verb.js';

export const encodeVerb: Verb = {
  name: 'encode',
  usage: 'encode',
  about:
    'monitor lines SRC>DST,VIA*,VIA:info → hex frames; a line that cannot be read goes to standard error',
  async run() {
    const output = new Output();
    let line = 0;
    let failed = false;
    for await (const text of inputLines()) {
      line++;
      if (text === '') continue;
      const frame = parseMonitorText(text);
      if (isMalformed(frame)) {
        failed = true;
        console.error(`line ${line}: ${frame.malformed} (at ${frame.at})`);
      } else await output.line(toHex(encodeFrame(frame)));
    }
    await output.flush();
    return failed ? 1 : 0;
  },
};

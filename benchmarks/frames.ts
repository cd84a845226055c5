import { APRS_VECTORS } from '@mistpeak/core/aprs/aprs.vectors';
import { KIND_VECTORS } from '@mistpeak/core/aprs/kinds.vectors';
import { encodeFrame, uiFrame } from '@mistpeak/core/ax25/frame';
import { fromLatin1 } from '@mistpeak/core/bits/octets';
import { viewFrame } from '@mistpeak/core/stations/view';
import { quickest } from './quickest.js';

const ROUNDS = 4000;

/** Reading frames of all published examples from their octets, against JSON.parse of what they say. */
export function framesBenchmark(): void {
  const path = [
    { call: 'QH1ANR', used: true },
    { call: 'WIDE2-1', used: false },
  ];
  const packets = [...APRS_VECTORS, ...KIND_VECTORS].map(({ info, destination = 'APZMPK' }) =>
    encodeFrame(uiFrame('QH7CTC-9', destination, path, fromLatin1(info))),
  );
  const texts = packets.map((packet) => JSON.stringify(viewFrame(packet)));
  const many = (run: () => void) => (): void => {
    for (let i = 0; i < ROUNDS; i++) run();
  };
  const read = quickest(many(() => packets.forEach((packet) => viewFrame(packet))));
  const parse = quickest(many(() => texts.forEach((text) => void JSON.parse(text))));
  const perFrame = (ms: number): string => `${((1000 * ms) / ROUNDS / packets.length).toFixed(1)} µs`;
  console.log(
    `  a frame of any kind read in ${perFrame(read)}, the same facts from JSON in ${perFrame(parse)}: ` +
      `ratio ${(parse / read).toFixed(2)} (aim 1)`,
  );
}

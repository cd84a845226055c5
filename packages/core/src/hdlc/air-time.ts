import { withFcs } from './fcs.js';

const FLAG_BITS = 8;

/** Bits of a frame on the air: FCS added, a 0 stuffed after five 1s (ISO/IEC 13239), one flag at each end. */
export function bitsOnAir(frame: Uint8Array): number {
  const octets = withFcs(frame);
  let ones = 0;
  let bits = octets.length * 8;
  for (const octet of octets) {
    for (let bit = 0; bit < 8; bit++) {
      ones = (octet >> bit) & 1 ? ones + 1 : 0;
      if (ones === 5) {
        bits++;
        ones = 0;
      }
    }
  }
  return bits + 2 * FLAG_BITS;
}

/**
 * Time that one transmission holds the channel, in ms: TXDELAY + (flags + stuffed frame with FCS) / rate + tail.
 * Without txDelayMs and txTailMs: the frame alone, which is all that a receiver can know of another's frame.
 */
export function airTimeMs(
  frame: Uint8Array,
  baud: number,
  { txDelayMs = 0, txTailMs = 0 }: { txDelayMs?: number; txTailMs?: number } = {},
): number {
  if (!(baud > 0)) throw new RangeError('the rate must be above 0 baud');
  return txDelayMs + (bitsOnAir(frame) * 1000) / baud + txTailMs;
}

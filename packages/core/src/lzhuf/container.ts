import { malformed, type Malformed } from '../bits/malformed.js';
import { concatOctets } from '../bits/octets.js';
import { crc16 } from './crc16.js';
import { compress, decompress } from './lzhuf.js';

/** CRC-16 of all that follows, low octet first; length in 32 bits, low octet first; the stream (FBB compressed forwarding, version 1). */
export const HEAD_OCTETS = 6;
/** What no message of this trade comes near; a length that claims more is not believed. */
export const LARGEST_OCTETS = 8 * 1024 * 1024;

export function pack(octets: Uint8Array): Uint8Array {
  if (octets.length > LARGEST_OCTETS) throw new RangeError(`at most ${LARGEST_OCTETS} octets`);
  const packed = concatOctets(new Uint8Array(HEAD_OCTETS), compress(octets));
  const view = new DataView(packed.buffer);
  view.setUint32(2, octets.length, true);
  view.setUint16(0, crc16(packed.subarray(2)), true);
  return packed;
}

/** largest: octets that are taken at most. Malformed on a wrong CRC, a length that is not believed, or a stream that is none. */
export function unpack(packed: Uint8Array, largest = LARGEST_OCTETS): Uint8Array | Malformed {
  if (packed.length < HEAD_OCTETS) return malformed('the container is cut short', packed.length);
  const view = new DataView(packed.buffer, packed.byteOffset, packed.length);
  if (view.getUint16(0, true) !== crc16(packed.subarray(2)))
    return malformed('the checksum of the container is wrong (CRC-16)', 0);
  const length = lengthInside(packed);
  if (length > largest) return malformed(`it claims ${length} octets; at most ${largest} are taken`, 2);
  return decompress(packed.subarray(HEAD_OCTETS), length);
}

/** The length that the head claims; the container has its six octets. */
export const lengthInside = (packed: Uint8Array): number =>
  new DataView(packed.buffer, packed.byteOffset, packed.length).getUint32(2, true);

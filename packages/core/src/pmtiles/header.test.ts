import fc from 'fast-check';
import { isMalformed } from '../bits/malformed.js';
import { decodePmtilesHeader, encodePmtilesHeader, HEADER_OCTETS, type PmtilesHeader } from './header.js';

const HEADER: PmtilesHeader = {
  tiles: 'vector',
  minZoom: 0,
  maxZoom: 14,
  west: -11.65,
  south: -29.75,
  east: -11.15,
  north: -29.45,
  parts: {
    root: { offset: 127, length: 25 },
    metadata: { offset: 152, length: 2 },
    leaves: { offset: 154, length: 0 },
    data: { offset: 154, length: 1000 },
  },
};
const octets = encodePmtilesHeader(HEADER, 1);
const changed = (at: number, ...values: number[]): Uint8Array => {
  const copy = Uint8Array.from(octets);
  copy.set(values, at);
  return copy;
};
const reasonOf = (header: Uint8Array, length = 1154): string => {
  const read = decodePmtilesHeader(header, length);
  return isMalformed(read) ? read.malformed : 'read';
};

it('is read as it was written, and stands where the specification says', () => {
  expect(octets).toHaveLength(HEADER_OCTETS);
  expect(String.fromCharCode(...octets.subarray(0, 8))).toBe('PMTiles\u0003');
  expect([...octets.subarray(8, 10), octets[99], octets[100], octets[101]]).toEqual([127, 0, 1, 0, 14]);
  // −11.65° times ten million, little-endian two's complement.
  expect([...octets.subarray(102, 106)]).toEqual([0xe0, 0x59, 0x0e, 0xf9]);
  expect(decodePmtilesHeader(octets, 1154)).toEqual(HEADER);
});

it.each([
  [octets.subarray(0, 126), 1154, /shorter/],
  [changed(0, 0x70), 1154, /no PMTiles file/],
  [changed(7, 2), 1154, /version 2/],
  [octets, 1153, /cut off: its data/],
  [changed(101, 31), 1154, /scales/],
  [changed(100, 15), 1154, /scales/],
  [changed(110, 0, 0, 0, 0x90), 1154, /bounds/],
])('%#: is refused in words', (header, length, reason) => expect(reasonOf(header, length)).toMatch(reason));

it('a kind of tile that is not known is told as such', () => {
  const read = decodePmtilesHeader(changed(99, 9), 1154);
  expect(!isMalformed(read) && read.tiles).toBe('unknown');
});

it('nothing crashes it', () => {
  fc.assert(
    fc.property(fc.uint8Array({ maxLength: 200 }), (junk) => {
      decodePmtilesHeader(junk, junk.length);
      decodePmtilesHeader(Uint8Array.of(...octets.subarray(0, 8), ...junk), 1e9);
    }),
  );
});

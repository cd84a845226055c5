import fc from 'fast-check';
import { isMalformed } from '../bits/malformed.js';
import { decodeDirectory, encodeDirectory, packTiles, type Tile } from './archive.js';
import { decodePmtilesHeader, type PmtilesHeader } from './header.js';

const ABOUT = {
  tiles: 'vector',
  minZoom: 0,
  maxZoom: 9,
  west: -12,
  south: -30,
  east: -11,
  north: -29,
} as const;
const packed = (tiles: readonly Tile[]): { file: Uint8Array; header: PmtilesHeader } => {
  const file = Uint8Array.from(packTiles(ABOUT, tiles).flatMap((piece) => [...piece]));
  const header = decodePmtilesHeader(file, file.length);
  if (isMalformed(header)) throw new Error(header.malformed);
  return { file, header };
};

/** A reader of its own: from the root by way of a leaf, as the specification tells. */
function read(file: Uint8Array, { parts }: PmtilesHeader, id: number): Uint8Array | undefined {
  let octets = file.subarray(parts.root.offset, parts.root.offset + parts.root.length);
  for (;;) {
    const entry = decodeDirectory(octets)
      ?.filter((one) => one.id <= id)
      .at(-1);
    if (!entry) return undefined;
    const base = entry.run === 0 ? parts.leaves.offset : parts.data.offset;
    const found = file.subarray(base + entry.offset, base + entry.offset + entry.length);
    if (entry.run > 0) return id < entry.id + entry.run ? found : undefined;
    octets = found;
  }
}

it('a directory by hand: 7 and 8 the same, 12 behind them, 20 where the first stands', () => {
  const entries = [
    { id: 7, run: 2, length: 300, offset: 0 },
    { id: 12, run: 1, length: 5, offset: 300 },
    { id: 20, run: 1, length: 300, offset: 0 },
  ];
  const octets = encodeDirectory(entries);
  expect([...octets]).toEqual([3, 7, 5, 8, 2, 1, 1, 0xac, 2, 5, 0xac, 2, 1, 0, 1]);
  expect(decodeDirectory(octets)).toEqual(entries);
});

it('offsets beyond 32 bits, as gigabytes need them', () => {
  const entries = [{ id: 1, run: 1, length: 9, offset: 2 ** 40 + 5 }];
  expect(decodeDirectory(encodeDirectory(entries))).toEqual(entries);
});

it.each([1, 12, 5000])('%i tiles: each is found again, others are not', (count) => {
  const tiles = Array.from({ length: count }, (_, i) => ({
    id: 3 * i,
    octets: Uint8Array.of(i % 251, i >> 8, 1),
  }));
  const { file, header } = packed(tiles);
  expect(header.parts.root.offset + header.parts.root.length).toBeLessThanOrEqual(16_384);
  expect(header.parts.leaves.length > 0).toBe(count === 5000);
  // Of thousands some in each leaf.
  for (const { id, octets } of tiles.filter((_, i) => i < 20 || i % 41 === 0)) {
    expect(read(file, header, id)).toEqual(octets);
    expect(read(file, header, id + 1)).toBeUndefined();
  }
});

it('the same octets in a row are kept once', () => {
  const sea = (id: number): Tile => ({ id, octets: Uint8Array.of(9, 9) });
  const { file, header } = packed([sea(4), sea(5), { id: 6, octets: Uint8Array.of(9) }, sea(7), sea(9)]);
  expect(header.parts.data.length).toBe(2 + 1 + 2 + 2);
  expect([4, 5, 6, 7, 8, 9].map((id) => read(file, header, id)?.length)).toEqual([2, 2, 1, 2, undefined, 2]);
});

it('nothing crashes the reading of a directory, and none is read from a piece of one', () => {
  fc.assert(
    fc.property(fc.uint8Array({ maxLength: 60 }), (junk) => {
      for (const { run, length } of decodeDirectory(junk) ?? [])
        expect(run + length).toBeGreaterThanOrEqual(0);
    }),
  );
  const whole = encodeDirectory([
    { id: 1, run: 1, length: 200, offset: 0 },
    { id: 5, run: 1, length: 200, offset: 4000 },
  ]);
  for (let length = 0; length < whole.length; length++)
    expect(decodeDirectory(whole.subarray(0, length)) ?? []).toEqual([]);
  expect(decodeDirectory(Uint8Array.of(1, 1, 1, 1, 0))).toBeUndefined();
});

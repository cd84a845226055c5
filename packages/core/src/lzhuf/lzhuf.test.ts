import fc from 'fast-check';
import { isMalformed } from '../bits/malformed.js';
import { fromHex, fromLatin1, toLatin1 } from '../bits/octets.js';
import { LARGEST_OCTETS, lengthInside, pack, unpack } from './container.js';
import { crc16 } from './crc16.js';
import { compress, decompress, Decompressor } from './lzhuf.js';
import { Matches } from './matches.js';
import { POSITION_CODES, writePosition } from './position-code.js';
import { AdaptiveTree } from './tree.js';

const octets = (hex: string): Uint8Array => fromHex(hex) as Uint8Array;
const text = (octets: unknown): string => toLatin1(octets as Uint8Array);

/** from: the public description of FBB compressed forwarding; a container of another program. */
const HELLO =
  '52 06 21 00 00 00 EA 7C 7F 18 7F BD C6 B3 E9 28 06 C0 FF 7B 7E 1F 5C 2B 7F 9B CB AB 7A DC CE 58';

/** Octets with much that is said again, over and beyond the window. */
const wordy = fc
  .tuple(
    fc.array(fc.uint8Array({ minLength: 1, maxLength: 90 }), { minLength: 1, maxLength: 12 }),
    fc.array(fc.nat(11), { maxLength: 150 }),
  )
  .map(([words, order]) =>
    Uint8Array.from(order.flatMap((n) => [...(words[n % words.length] as Uint8Array)])),
  );

it('reads a container of another program, and its checks', () => {
  expect(text(unpack(octets(HELLO)))).toBe('Hello, hello, hello radio mail!\r\n');
  // from: the check value of this CRC in every catalogue
  expect(crc16(fromLatin1('123456789'))).toBe(0x31c3);
  const mine = pack(fromLatin1('Hello, hello, hello radio mail!\r\n'));
  expect(mine.length).toBeLessThanOrEqual(octets(HELLO).length);
  expect(lengthInside(mine)).toBe(33);
});

it('positions have a prefix code of 64 values that fills all eight bits', () => {
  // from: lzhuf.c, p_code: the first and last of each length
  const codes = POSITION_CODES.map(({ bits, code }) => code << (8 - bits));
  expect([0, 1, 3, 4, 11, 12, 23, 24, 47, 48, 63].map((n) => codes[n])).toEqual([
    0x00, 0x20, 0x40, 0x50, 0x88, 0x90, 0xbc, 0xc0, 0xee, 0xf0, 0xff,
  ]);
  expect(POSITION_CODES.reduce((sum, { bits }) => sum + 2 ** -bits, 0)).toBe(1);
});

it('whatever goes in comes out, at any cut', () => {
  fc.assert(
    fc.property(
      fc.oneof(wordy, fc.uint8Array({ maxLength: 3000 })),
      fc.integer({ min: 1, max: 40 }),
      (plain, cut) => {
        const stream = compress(plain);
        expect(decompress(stream, plain.length)).toEqual(plain);
        const decompressor = new Decompressor(plain.length);
        const pieces: number[] = [];
        for (let at = 0; at < stream.length; at += cut)
          pieces.push(...(decompressor.push(stream.subarray(at, at + cut)) as Uint8Array));
        expect([Uint8Array.from(pieces), decompressor.isWhole()]).toEqual([plain, true]);
      },
    ),
    { numRuns: 60 },
  );
});

it('the tree is rebuilt alike on both sides when frequencies reach their limit', () => {
  // No match in it, so that every octet is one more of its kind: 8000 hex of them, twice.
  let seed = 1;
  const plain = Uint8Array.from({ length: 80_000 }, () => {
    seed = (Math.imul(seed, 1103515245) + 12345) >>> 0;
    return (seed >>> 16) % ((seed >>> 8) % 7 === 0 ? 256 : 5);
  });
  expect(decompress(compress(plain), plain.length)).toEqual(plain);
});

it('takes the longest match within the window, and none beyond it', () => {
  const far = (gap: number): Uint8Array => {
    const plain = new Uint8Array(gap + 20).map((_, i) => (i * 7 + (i >> 3)) & 0xff);
    plain.set(fromLatin1('supercalifragilistic'), 0);
    plain.set(fromLatin1('supercalifragilistic'), gap);
    return plain;
  };
  for (const [gap, back] of [
    [2048, 2048],
    [2049, 0],
  ] as const) {
    const plain = far(gap);
    const matches = new Matches(plain);
    for (let at = 0; at < gap; at++) matches.note(at);
    expect(matches.longest(gap)).toEqual({ length: back === 0 ? 0 : 20, back });
  }
  const run = new Matches(new Uint8Array(200));
  run.note(0);
  expect(run.longest(1)).toEqual({ length: 60, back: 1 });
  const short = new Matches(fromLatin1('abxab'));
  for (const at of [0, 1, 2]) short.note(at);
  expect(short.longest(3)).toEqual({ length: 0, back: 0 });
});

it('a match beyond the window is told, not followed', () => {
  // A match of three octets is character 256.
  const bits: number[] = [];
  const stream = (position: number): Uint8Array => {
    bits.length = 0;
    const put = (one: number): unknown => bits.push(one);
    new AdaptiveTree().write(256, put);
    writePosition(position, put);
    while (bits.length % 8 > 0) bits.push(0);
    return Uint8Array.from({ length: bits.length / 8 }, (_, i) =>
      parseInt(bits.slice(8 * i, 8 * i + 8).join(''), 2),
    );
  };
  expect(text(decompress(stream(2047), 3))).toBe('   ');
  expect(decompress(stream(2048), 3)).toEqual({
    malformed: 'a match reaches further back than the window',
    at: 0,
  });
});

it('wrong containers are told by what is wrong', () => {
  const good = pack(fromLatin1('41 terns, 6 gannets'));
  expect(unpack(good.subarray(0, 5))).toMatchObject({ malformed: 'the container is cut short' });
  const bad = good.slice();
  bad[9] = (bad[9] as number) ^ 1;
  expect(unpack(bad)).toMatchObject({ malformed: expect.stringContaining('checksum') });
  expect(unpack(good, 18)).toMatchObject({ malformed: 'it claims 19 octets; at most 18 are taken' });
  expect(unpack(good, 19)).toEqual(fromLatin1('41 terns, 6 gannets'));
  expect(() => pack(new Uint8Array(LARGEST_OCTETS + 1))).toThrow(RangeError);
  const short = decompress(good.subarray(6, 10), 19);
  expect(short).toMatchObject({ malformed: expect.stringContaining('ends after') });
});

it('junk gives octets or a reason, never more than was asked for', () => {
  fc.assert(
    fc.property(fc.uint8Array({ maxLength: 400 }), fc.integer({ min: 0, max: 500 }), (junk, total) => {
      const out = decompress(junk, total);
      expect(isMalformed(out) || out.length === total).toBe(true);
      const container = unpack(junk);
      expect(isMalformed(container) || container.length <= 500_000).toBe(true);
    }),
    { numRuns: 300 },
  );
});

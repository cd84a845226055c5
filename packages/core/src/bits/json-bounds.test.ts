import fc from 'fast-check';
import { exceedsJsonBounds } from './json-bounds.js';
import { fromLatin1 } from './octets.js';

const BOUNDS = { depth: 3, members: 4, total: 6 };
const exceeds = (text: string): boolean => exceedsJsonBounds(fromLatin1(text), BOUNDS);

describe('JSON within bounds', () => {
  it.each([
    ['[[[1]]]', false],
    ['[[[[1]]]]', true],
    ['{"a":{"b":[]}}', false],
    ['{"a":{"b":[{}]}}', true],
    ['[1,2,3,4]', false],
    ['[1,2,3,4,5]', true],
    ['[[1,2,3],[4,5,6],7]', false],
    ['[[1,2,3],[4,5,6],[7,8]]', true],
    ['"[[[[[[,,,,,,,"', false],
    ['"\\"[[[[[["', false],
    ['"\\\\",[[[[', true],
    ['["unclosed', false],
    ['', false],
    [']]]][[[1]]]', false],
  ])('%s exceeds: %s', (text, is) => expect(exceeds(text)).toBe(is));

  it('is told as counting what was parsed tells it', () => {
    const measure = (value: unknown, depth = 0): { depth: number; members: number } => {
      if (typeof value !== 'object' || value === null) return { depth, members: 0 };
      const inner = Object.values(value).map((one) => measure(one, depth + 1));
      return {
        depth: Math.max(depth + 1, ...inner.map((one) => one.depth)),
        members: Math.max(Object.keys(value).length, ...inner.map((one) => one.members)),
      };
    };
    fc.assert(
      fc.property(fc.jsonValue({ maxDepth: 6 }), (value) => {
        const octets = new Uint8Array([...JSON.stringify(value)].flatMap((sign) => encode(sign)));
        const { depth, members } = measure(value);
        const bounds = { depth: 3, members: 3, total: Infinity };
        expect(exceedsJsonBounds(octets, bounds)).toBe(depth > 3 || members > 3);
      }),
    );
  });
});

/** UTF-8 by hand: core knows no platform. */
function encode(sign: string): number[] {
  const code = sign.codePointAt(0) ?? 0;
  if (code < 0x80) return [code];
  if (code < 0x800) return [0xc0 | (code >> 6), 0x80 | (code & 63)];
  if (code < 0x10000) return [0xe0 | (code >> 12), 0x80 | ((code >> 6) & 63), 0x80 | (code & 63)];
  return [0xf0 | (code >> 18), 0x80 | ((code >> 12) & 63), 0x80 | ((code >> 6) & 63), 0x80 | (code & 63)];
}

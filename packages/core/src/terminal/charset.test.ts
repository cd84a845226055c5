import fc from 'fast-check';
import { fromHex } from '../bits/octets.js';
import { CHARSETS, decodeText, encodeText, guessCharset } from './charset.js';

const octets = (hex: string): Uint8Array => fromHex(hex) as Uint8Array;

it.each([
  // from: RFC 3629, section 7
  ['41e289a2ce912e', 'UTF-8', 'A≢Α.'],
  ['ed959ceab5adec96b4', 'UTF-8', '한국어'],
  ['efbbbff0a38eb4', 'UTF-8', '\ufeff𣎴'],
  // from: ISO/IEC 8859-1; the code page 437 table (from memory)
  ['4772fcdf65', 'ISO-8859-1', 'Grüße'],
  ['81e1c4db', 'CP437', 'üß─█'],
  ['80ff', 'CP437', 'Ç\u00a0'],
] as const)('%s in %s: %s, and back', (hex, charset, text) => {
  expect(decodeText(octets(hex), charset)).toBe(text);
  expect(encodeText(text, charset)).toEqual({ octets: octets(hex), lost: [] });
});

// from: RFC 3629, sections 3 and 10: overlong forms, surrogates, beyond 10FFFF, and octets that stand alone
it.each(['c080', 'c1bf', 'e08080', 'eda080', 'f4908080', 'f5808080', 'f08fbfbf', '80', 'bf41'])(
  '%s is no UTF-8',
  (hex) => expect(decodeText(octets(hex), 'UTF-8')).toContain('\ufffd'),
);

it('a letter cut at the end is told, one octet each; what follows is read', () => {
  expect(decodeText(octets('41e289'), 'UTF-8')).toBe('A\ufffd\ufffd');
  expect(decodeText(octets('e24142'), 'UTF-8')).toBe('\ufffdAB');
});

it('says which letters a set lacks', () => {
  expect(encodeText('α→ü', 'ISO-8859-1')).toEqual({ octets: octets('3f3ffc'), lost: ['α', '→'] });
  expect(encodeText('α→ü', 'CP437')).toEqual({ octets: octets('e03f81'), lost: ['→'] });
  expect(encodeText('\ud800', 'UTF-8').octets).toEqual(octets('efbfbd'));
});

it.each([
  ['68656c6c6f', 'UTF-8'],
  ['c3bc', 'UTF-8'],
  ['4772fcdf65', 'ISO-8859-1'],
  ['c9cdcdbb0abac4', 'CP437'],
  ['8420819a', 'CP437'],
] as const)('%s is likely %s', (hex, charset) => expect(guessCharset(octets(hex))).toBe(charset));

it('any octets are text in any set, and of one octet a letter they come back', () => {
  fc.assert(
    fc.property(fc.uint8Array(), fc.constantFrom(...CHARSETS), (any, charset) => {
      const text = decodeText(any, charset);
      if (charset !== 'UTF-8') expect(encodeText(text, charset).octets).toEqual(any);
      expect(decodeText(encodeText(text, 'UTF-8').octets, 'UTF-8')).toBe(text);
    }),
  );
});

import fc from 'fast-check';
import { fromLatin1, toLatin1 } from '../bits/octets.js';
import { LONGEST_LINE, standingOf, Transcript, type Side } from './transcript.js';

function shown(...said: readonly (readonly [Side, string])[]): string[] {
  const transcript = new Transcript();
  said.forEach(([side, text], i) => transcript.add({ side, atMs: i, octets: fromLatin1(text) }));
  return transcript
    .shown()
    .map(
      ({ side, octets, fromOctet, isWhole, atMs }) =>
        `${side} ${atMs} ${fromOctet}:${toLatin1(octets)}${isWhole ? '' : '…'}`,
    );
}

it.each([
  [
    [['theirs', 'one\rtwo\nthree\r\nfour']],
    ['theirs 0 0:one', 'theirs 0 4:two', 'theirs 0 8:three', 'theirs 0 15:four…'],
  ],
  [
    [
      ['theirs', 'one\r'],
      ['theirs', '\ntwo\r'],
    ],
    ['theirs 0 0:one', 'theirs 1 5:two'],
  ],
  [
    [['theirs', 'a\r\rb\n\nc']],
    ['theirs 0 0:a', 'theirs 0 2:', 'theirs 0 3:b', 'theirs 0 5:', 'theirs 0 6:c…'],
  ],
  [
    [
      ['theirs', 'hut> '],
      ['mine', 'L\r'],
      ['theirs', 'no'],
    ],
    ['theirs 0 0:hut> …', 'mine 1 0:L', 'theirs 2 5:no…'],
  ],
  [
    [
      ['mine', 'ab'],
      ['mine', 'c\r'],
    ],
    ['mine 0 0:abc'],
  ],
  [
    [
      ['theirs', 'x\r'],
      ['mine', 'y\r'],
      ['theirs', '\nz'],
    ],
    ['theirs 0 0:x', 'mine 1 0:y', 'theirs 2 3:z…'],
  ],
] as [[Side, string][], string[]][])('%j', (said, lines) => expect(shown(...said)).toEqual(lines));

it('cuts what has no line end', () => {
  const lines = shown(['theirs', 'x'.repeat(2 * LONGEST_LINE + 5)]);
  expect(lines.map((line) => line.length - line.indexOf(':') - 1)).toEqual([
    LONGEST_LINE + 1,
    LONGEST_LINE + 1,
    6,
  ]);
});

it('loses, doubles and swaps no octet, however it is cut', () => {
  const text = fc.string({ unit: fc.constantFrom('a', 'b', '\r', '\n'), maxLength: 60 });
  fc.assert(
    fc.property(text, fc.array(fc.nat(59)), (whole, cuts) => {
      const one = shown(['mine', whole]).map((line) => line.replace(/ \d+ /, ' '));
      const places = [0, ...new Set(cuts.filter((at) => at < whole.length)), whole.length].sort(
        (a, b) => a - b,
      );
      const parts = places.slice(1).map((end, i) => ['mine', whole.slice(places[i], end)] as const);
      expect(shown(...parts).map((line) => line.replace(/ \d+ /, ' '))).toEqual(one);
      const transcript = new Transcript();
      for (const [side, part] of parts) transcript.add({ side, atMs: 0, octets: fromLatin1(part) });
      expect(transcript.octetsOf('mine')).toBe(whole.length);
    }),
  );
});

it('a line stands where its last octet stands', () => {
  const transcript = new Transcript();
  transcript.add({ side: 'mine', atMs: 0, octets: fromLatin1('ab\rcd') });
  const [whole, open] = transcript.shown() as [never, never];
  expect([2, 3].map((n) => standingOf(whole, 9, n))).toEqual(['sent', 'acknowledged']);
  expect([2, 3].map((n) => standingOf(whole, n, 0))).toEqual(['not sent', 'sent']);
  expect([4, 5].map((n) => standingOf(open, n, n))).toEqual(['not sent', 'acknowledged']);
});

import fc from 'fast-check';
import { fromLatin1 } from '../bits/octets.js';
import { APRS_VECTORS, REFUSED } from './aprs.vectors.js';
import { describeReport } from './describe.js';
import { encodeAck, encodeMessage } from './message.js';
import { encodeObject } from './object.js';
import { parseAprs } from './parse.js';
import { encodePositionReport } from './position-report.js';
import type { AprsReport } from './report.js';

const parse = (info: string, destination = 'APZMPK'): AprsReport => parseAprs(fromLatin1(info), destination);

/** Numbers to six digits after the point unless the vector says otherwise. */
function near(expected: unknown): unknown {
  if (typeof expected === 'number') return expect.closeTo(expected, 5);
  if (typeof expected !== 'object' || expected === null || '$$typeof' in expected) return expected;
  return Object.fromEntries(Object.entries(expected).map(([key, value]) => [key, near(value)]));
}

describe('published examples', () => {
  it.each(APRS_VECTORS)('$info: $from', ({ info, destination, says }) => {
    expect(parse(info, destination)).toMatchObject(near(says) as object);
  });
});

describe('what cannot be read', () => {
  it.each(REFUSED)('$info: $reason', ({ info, reason }) => {
    expect(parse(info)).toEqual({ type: 'unknown', reason });
  });

  it('never throws, whatever the octets and the destination', () => {
    const first = fc.constantFrom(..."!=/@`':;)>_T?<}${,#*%&".split(''), '\x1c', '\x1d');
    const text = fc
      .tuple(first, fc.string({ unit: 'binary', maxLength: 60 }))
      .map(([a, b]) => a + b.replace(/[^\0-\xff]/g, '~'));
    const mutated = fc
      .tuple(fc.constantFrom(...APRS_VECTORS.map(({ info }) => info)), fc.nat(60), fc.nat(255))
      .map(([info, at, code]) => info.slice(0, at) + String.fromCharCode(code) + info.slice(at + 1));
    fc.assert(
      fc.property(
        fc.oneof(text, mutated),
        fc.constantFrom('APZMPK', 'S32U6T', '', 'ZZZZZZ'),
        (info, destination) => {
          const report = parse(info, destination);
          for (const value of [report.latitudeDeg, report.longitudeDeg, report.speedMps])
            expect(value === undefined || Number.isFinite(value)).toBe(true);
          expect(describeReport(report, { units: 'imperial', coordinates: 'minutes' })).toEqual(
            expect.any(String),
          );
        },
      ),
      { numRuns: 2000 },
    );
  });
});

describe('what we send', () => {
  const latitudeDeg = fc.double({ min: -90, max: 90, noNaN: true });
  const longitudeDeg = fc.double({ min: -180, max: 180, noNaN: true });
  const symbol = { table: '/', code: '-' };
  /** Half of a hundredth of a minute; half of a base-91 step. */
  const steps = { plain: 1 / 12_000, compressed: 1 / 190_463 };

  it.each(['plain', 'compressed'] as const)('a %s position comes back within half a step', (form) => {
    fc.assert(
      fc.property(fc.record({ latitudeDeg, longitudeDeg }), (position) => {
        const report = parse(
          encodePositionReport(position, symbol, { comment: 'hut', compressed: form === 'compressed' }),
        );
        expect(Math.abs((report.latitudeDeg ?? 999) - position.latitudeDeg)).toBeLessThanOrEqual(
          steps[form] * 1.001,
        );
        expect(Math.abs((report.longitudeDeg ?? 999) - position.longitudeDeg)).toBeLessThanOrEqual(
          steps[form] * 1.001,
        );
        expect(report).toMatchObject({ type: 'position', symbol, comment: 'hut' });
      }),
    );
  });

  it('an overlay digit survives the compressed form', () => {
    const info = encodePositionReport(
      { latitudeDeg: 1, longitudeDeg: 2 },
      { table: '3', code: '#' },
      { compressed: true },
    );
    expect(info.charAt(1)).toBe('d');
    expect(parse(info).symbol).toEqual({ table: '3', code: '#' });
  });

  it.each([0, 1, 2, 3, 4])('ambiguity of %i digits comes back', (ambiguityDigits) => {
    const info = encodePositionReport({ latitudeDeg: 49.0583, longitudeDeg: -72.0292 }, symbol, {
      ambiguityDigits,
    });
    expect(parse(info).ambiguityDigits ?? 0).toBe(ambiguityDigits);
  });

  it('messages and objects come back', () => {
    expect(parse(encodeMessage('QH7CTC-9', 'come home', '12')).message).toEqual({
      addressee: 'QH7CTC-9',
      text: 'come home',
      number: '12',
    });
    expect(parse(encodeAck('QH7CTC-9', '12'))).toMatchObject({ type: 'ack', message: { number: '12' } });
    const at = { name: '145.675', live: true, atMs: Date.UTC(2026, 10, 9, 23, 45) };
    expect(
      parse(encodeObject(at, { latitudeDeg: 0, longitudeDeg: 0 }, { table: '/', code: 'r' }, 'T094')),
    ).toMatchObject({
      object: { name: '145.675', live: true },
      timestamp: { text: '092345z' },
    });
  });
});

describe('in words', () => {
  it.each([
    ['!4903.50N/07201.75W>088/036A', 'metric', 'position · 49.0583°N 72.0292°W · 67 km/h E · A'],
    ['!4903.50N/07201.75W>088/036A', 'imperial', 'position · 49.0583°N 72.0292°W · 41 mph E · A'],
    [
      '!4903.50N/07201.75W_220/004g005t077h50b09900',
      'metric',
      'weather · 49.0583°N 72.0292°W · 25 °C SW 2 m/s gusts 2 m/s 50 % 990 hPa',
    ],
    [':WU2Z     :Testing{003', 'metric', 'message to WU2Z no. 003: Testing'],
    ['hello', 'metric', 'not read as APRS: no APRS data type begins with "h"'],
  ] as const)('%s, %s', (info, units, words) => {
    expect(describeReport(parse(info), { units, coordinates: 'decimal' })).toBe(words);
  });
});

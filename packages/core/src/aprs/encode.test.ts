import fc from 'fast-check';
import { fromLatin1, toLatin1 } from '../bits/octets.js';
import { encodeAprs } from './encode.js';
import { parseAprs } from './parse.js';
import type { AprsReport } from './report.js';
import { ANY_REPORT } from './testing/any-report.js';

/** Relative to the size of the figure: binary rounding, far below any step on the air. */
const ROUNDING = 1e-9;

/** Where two values differ by more than rounding; nothing where they are the same. */
function differences(a: unknown, b: unknown, at = ''): string[] {
  if (typeof a === 'number' && typeof b === 'number')
    return Math.abs(a - b) <= ROUNDING * Math.max(1, Math.abs(a)) ? [] : [`${at}: ${a} ≠ ${b}`];
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null)
    return a === b ? [] : [`${at}: ${JSON.stringify(a)} ≠ ${JSON.stringify(b)}`];
  const [left, right] = [a as Record<string, unknown>, b as Record<string, unknown>];
  const keys = new Set([...Object.keys(left), ...Object.keys(right)]);
  return [...keys].flatMap((key) => differences(left[key], right[key], `${at}.${key}`));
}

const back = (report: AprsReport): { info: string; parsed: AprsReport } => {
  const { info, destination } = encodeAprs(report);
  return { info: toLatin1(info), parsed: parseAprs(info, destination ?? 'APZMPK') };
};

describe.each(Object.entries(ANY_REPORT))('any %s', (_, arbitrary) => {
  it('comes back as it was sent', () => {
    fc.assert(
      fc.property(arbitrary, (report) => {
        const { info, parsed } = back(report);
        expect({ info, differs: differences(report, parsed) }).toEqual({ info, differs: [] });
      }),
      { numRuns: 600 },
    );
  });
});

describe('a report that lacks what its kind needs', () => {
  it.each<AprsReport>([
    { type: 'position' },
    { type: 'object', latitudeDeg: 1, longitudeDeg: 1, symbol: { table: '/', code: '-' } },
    { type: 'item', object: { name: 'a!', live: true } },
    { type: 'message' },
    { type: 'telemetry' },
    { type: 'mic-e' },
    { type: 'third-party' },
    { type: 'unknown', reason: 'x' },
  ])('$type is refused', (report) => expect(() => encodeAprs(report)).toThrow(RangeError));

  it('a Mic-E message without a code is refused', () => {
    const { parsed } = back({
      type: 'position',
      latitudeDeg: 1,
      longitudeDeg: 1,
      symbol: { table: '/', code: '-' },
    });
    const report: AprsReport = { ...parsed, type: 'mic-e', micE: { message: 'lunch', gpsFix: 'current' } };
    expect(() => encodeAprs(report)).toThrow('Mic-E has no message "lunch"');
  });
});

describe('octets that are not ASCII', () => {
  it('survive in a comment', () => {
    const octets = String.fromCharCode(...Array.from({ length: 128 }, (_, i) => 128 + i));
    const info = `!4903.50N/07201.75W-x${octets}x`;
    const parsed = parseAprs(fromLatin1(info), 'APZMPK');
    expect(toLatin1(encodeAprs(parsed).info)).toBe(info);
  });
});

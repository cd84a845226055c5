import { agreedOffset, isClockWrong, withLostWeeks } from './seen.js';
import { stretchUntil, trueMs } from './stretches.js';

const HOUR = 3_600_000;

it.each([
  [2000, 0, false],
  [2001, 0, true],
  [-2001, 0, true],
  [2300, 300, false],
  [2301, 300, true],
])('off by %i ms, known to within %i: wrong is %s', (offByMs, withinMs, is) => {
  expect(isClockWrong({ offByMs, withinMs })).toBe(is);
});

it('a receiver is believed when three sentences agree to a second', () => {
  expect(agreedOffset([5000, 5100])).toBeUndefined();
  expect(agreedOffset([5000, 6000, 5100])).toBe(5100);
  expect(agreedOffset([5000, 6001, 5100])).toBeUndefined();
  expect(agreedOffset([99_000, 5000, 5200, 5100])).toBe(5100);
});

// IS-GPS-200: ten bits of week number; the weeks ended on 22 August 1999 and 7 April 2019.
it('a date of an old receiver has lost 1024 weeks, or twice as many', () => {
  const now = Date.UTC(2026, 9, 12, 14);
  const notBefore = Date.UTC(2026, 0, 1);
  const rollover = Date.UTC(2019, 3, 7) - Date.UTC(1999, 7, 22);
  expect(rollover).toBe(1024 * 7 * 24 * HOUR);
  for (const lost of [0, 1, 2]) expect(withLostWeeks(now - lost * rollover, notBefore)).toBe(now);
  expect(withLostWeeks(notBefore, notBefore)).toBe(notBefore);
  expect(withLostWeeks(notBefore - 1, notBefore)).toBe(notBefore - 1 + rollover);
});

describe('times that a wrong clock wrote', () => {
  it('of one that was behind, all until it is put right', () => {
    const stretch = stretchUntil(10 * HOUR, 11 * HOUR, 3 * HOUR);
    expect(stretch).toEqual({ fromMs: 10 * HOUR, toMs: 11 * HOUR, offByMs: 3 * HOUR });
    const of = (atMs: number): number => trueMs(atMs, stretch ? [stretch] : []);
    expect([of(10 * HOUR - 1), of(10 * HOUR), of(11 * HOUR - 1), of(11 * HOUR)]).toEqual([
      10 * HOUR - 1,
      13 * HOUR,
      14 * HOUR - 1,
      11 * HOUR,
    ]);
  });

  it('of one that was ahead, all but what it shows twice', () => {
    expect(stretchUntil(10 * HOUR, 13 * HOUR, -HOUR)).toEqual({
      fromMs: 10 * HOUR,
      toMs: 12 * HOUR,
      offByMs: -HOUR,
    });
    expect(stretchUntil(10 * HOUR, 11 * HOUR, -HOUR)).toBeUndefined();
  });

  it('of stretches that overlap the last counts', () => {
    const stretches = [
      { fromMs: 0, toMs: 100, offByMs: 1 },
      { fromMs: 50, toMs: 100, offByMs: 2 },
    ];
    expect([trueMs(49, stretches), trueMs(50, stretches), trueMs(100, stretches)]).toEqual([50, 52, 100]);
  });
});

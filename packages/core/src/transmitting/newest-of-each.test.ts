import { newestOfEach, SHOWN_OF_EACH } from './newest-of-each.js';

const sent = (purpose: string, atMs: number) => ({ purpose, atMs });
const newest = (all: ReturnType<typeof sent>[]) => newestOfEach(all, ({ atMs }) => atMs);

it('a long session pushes no beacon out, and many beacons no session', () => {
  const session = Array.from({ length: SHOWN_OF_EACH + 1 }, (_, i) => sent('session', 100 + i));
  const kept = newest([sent('beacon', 1), ...session, sent('message', 2)]);
  expect(kept.slice(-2).map(({ purpose }) => purpose)).toEqual(['message', 'beacon']);
  expect(kept).toHaveLength(SHOWN_OF_EACH + 2);
  // Of those that are too many the oldest go.
  expect(kept.some(({ atMs }) => atMs === 100)).toBe(false);
  const others = Array.from({ length: SHOWN_OF_EACH + 1 }, (_, i) => sent('beacon', 100 + i));
  expect(newest([...others, sent('session', 1)])).toHaveLength(SHOWN_OF_EACH + 1);
});

it('is newest first', () => {
  expect(newest([sent('beacon', 1), sent('session', 3), sent('message', 2)]).map(({ atMs }) => atMs)).toEqual(
    [3, 2, 1],
  );
});

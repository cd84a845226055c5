import { Slowness } from './slowness';

it('tells after three seconds whether the reckoning kept up, and begins anew', () => {
  const slow = new Slowness(1000);
  const run = (seconds: number, tookMs: number): boolean[] =>
    Array.from({ length: seconds }, () => slow.note(1000, tookMs));
  expect(run(3, 801)).toEqual([false, false, true]);
  expect(run(3, 800)).toEqual([false, false, false]);
  expect(run(3, 801)).toEqual([false, false, true]);
});

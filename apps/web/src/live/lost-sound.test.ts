import { LostSound } from './lost-sound';

it('what comes late is not lost, what never comes is, once it did not come for five seconds', () => {
  const lost = new LostSound();
  expect(lost.note(10_000, 0)).toBe(0);
  expect(lost.note(11_000, 1000)).toBe(0);
  // Two seconds in a queue, then all at once.
  expect(lost.note(13_000, 1000)).toBe(0);
  expect(lost.note(13_010, 3010)).toBe(0);
  // A second that never came.
  const after = [1, 2, 3, 4, 5].map((second) =>
    lost.note(13_010 + 1000 * second, 3010 + 1000 * (second - 1)),
  );
  expect(after).toEqual([0, 0, 0, 0, 1000]);
});

import { ENDS, mates } from './connectors.js';

it('a plug goes into a socket of its kind, and wireless ends into each other', () => {
  const fits = (a: (typeof ENDS)[number], b: (typeof ENDS)[number]): boolean =>
    mates({ connector: 'usb-c', end: a } as never, { connector: 'usb-c', end: b } as never);
  expect(ENDS.map((a) => ENDS.map((b) => fits(a, b)))).toEqual([
    // plug, socket, either
    [false, true, true],
    [true, false, true],
    [true, true, true],
  ]);
  expect(mates({ connector: 'a', end: 'plug' } as never, { connector: 'b', end: 'socket' } as never)).toBe(
    false,
  );
});

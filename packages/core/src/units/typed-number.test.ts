import { typedNumber } from './typed-number.js';

describe('a typed number', () => {
  it.each([
    ['12', 12],
    [' 0,25 ', 0.25],
    ['0.25', 0.25],
    ['.5', 0.5],
    ['5.', 5],
    ['−18,5', -18.5],
    ['–3', -3],
    ['-3', -3],
    ['+3', 3],
  ])('reads %j', (text, value) => {
    expect(typedNumber(text)).toBe(value);
  });

  it.each(['', ' ', '1,234,5', '1e3', '0x10', '5 mA', '--5', '.', '-', 'Infinity', '1 000'])(
    'refuses %j',
    (text) => {
      expect(typedNumber(text)).toBeNaN();
    },
  );
});

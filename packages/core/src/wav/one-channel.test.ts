import { oneChannel } from './one-channel.js';

it('takes one channel out of several, or their mean', () => {
  const three = Float32Array.of(1, 2, 6, -1, -2, -6);
  expect([...oneChannel(three, 3, 'left')]).toEqual([1, -1]);
  expect([...oneChannel(three, 3, 'right')]).toEqual([2, -2]);
  expect([...oneChannel(three, 3, 'mix')]).toEqual([3, -3]);
  expect([...oneChannel(three, 1, 'right')]).toEqual([...three]);
});

import { PlayQueue } from './play-queue';

const block = (values: number[], isLast = false) => ({
  left: Float32Array.from(values),
  right: Float32Array.from(values, (value) => -value),
  isLast,
});

function pull(queue: PlayQueue, count: number): number[] {
  const [left, right] = [new Float32Array(count).fill(9), new Float32Array(count).fill(9)];
  queue.pull(left, right);
  expect([...right].map((value) => 0 - value)).toEqual([...left]);
  return [...left];
}

it('begins when enough waits, and plays on without a gap', () => {
  const queue = new PlayQueue(4);
  queue.push(block([1, 2, 3]));
  expect(pull(queue, 2)).toEqual([0, 0]);
  queue.push(block([4]));
  expect(pull(queue, 2)).toEqual([1, 2]);
  queue.push(block([5, 6], true));
  expect(pull(queue, 5)).toEqual([3, 4, 5, 6, 0]);
  expect(queue.gaps).toBe(0);
});

it('a short over begins at its end; what follows waits for its own', () => {
  const queue = new PlayQueue(10);
  queue.push(block([1], true));
  expect(pull(queue, 2)).toEqual([1, 0]);
  queue.push(block([2]));
  expect(pull(queue, 2)).toEqual([0, 0]);
});

it('counts what was missing in mid-over, and forgets all when told', () => {
  const queue = new PlayQueue(2);
  queue.push(block([1, 2]));
  expect(pull(queue, 5)).toEqual([1, 2, 0, 0, 0]);
  expect(queue.gaps).toBe(3);
  queue.push(block([3, 4]));
  queue.clear();
  expect(pull(queue, 2)).toEqual([0, 0]);
  expect(queue.gaps).toBe(3);
});

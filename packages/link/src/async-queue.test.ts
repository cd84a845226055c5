import { AsyncQueue } from './async-queue.js';

async function all(queue: AsyncQueue<number>): Promise<number[]> {
  const read: number[] = [];
  for await (const value of queue) read.push(value);
  return read;
}

describe('a queue', () => {
  it('gives what was pushed before and while it is read, in order', async () => {
    const queue = new AsyncQueue<number>();
    queue.push(1);
    queue.push(2);
    const reading = all(queue);
    await Promise.resolve();
    queue.push(3);
    queue.end();
    expect(await reading).toEqual([1, 2, 3]);
  });

  it('throws its failure behind the last value', async () => {
    const queue = new AsyncQueue<number>();
    queue.push(1);
    queue.end(new Error('unplugged'));
    const iterator = queue[Symbol.asyncIterator]();
    expect(await iterator.next()).toEqual({ value: 1, done: false });
    await expect(iterator.next()).rejects.toThrow('unplugged');
  });

  it('ends once: what comes after changes nothing', async () => {
    const queue = new AsyncQueue<number>();
    queue.end();
    queue.end(new Error('too late'));
    queue.push(1);
    expect(await all(queue)).toEqual([]);
  });
});

import type { FailureReason, Problem } from '@mistpeak/contract/failures';
import { Refused } from '../api';
import { keepAsking } from './keep-asking';

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

const refused = (reason: FailureReason): Error => new Refused({ reason, happened: 'so' } as Problem);

/** What is answered, one after the other, and what the page was told. */
function bench(everyMs?: number, ...answers: (number | FailureReason)[]) {
  const told: (number | string | undefined)[] = [];
  let asked = 0;
  const giveUp = keepAsking<number>(
    () => {
      const answer = answers[asked++] ?? 'internal';
      return typeof answer === 'number' ? Promise.resolve(answer) : Promise.reject(refused(answer));
    },
    (answer) => told.push(answer),
    (problem) => told.push(problem?.reason),
    everyMs,
  );
  return { told, giveUp, asked: () => asked };
}

describe('who shows something of the server', () => {
  it('asks again each two seconds while server or database is away, then no more', async () => {
    const { told, asked } = bench(undefined, 'server-away', 'database-away', 7);
    await jest.advanceTimersByTimeAsync(1999);
    expect([asked(), told]).toEqual([1, ['server-away']]);
    await jest.advanceTimersByTimeAsync(1);
    expect([asked(), told]).toEqual([2, ['server-away', 'database-away']]);
    await jest.advanceTimersByTimeAsync(60_000);
    expect([asked(), told.slice(2)]).toEqual([3, [undefined, 7]]);
  });

  it('asks no second time for what was refused', async () => {
    const { told, asked } = bench(undefined, 'not-found', 7);
    await jest.advanceTimersByTimeAsync(60_000);
    expect([asked(), told]).toEqual([1, ['not-found']]);
  });

  it('asks anew from time to time if it wants to, after an answer as after a refusal', async () => {
    const { told, asked } = bench(30_000, 1, 'not-found', 'server-away', 2);
    await jest.advanceTimersByTimeAsync(29_999);
    expect(asked()).toBe(1);
    await jest.advanceTimersByTimeAsync(1 + 30_000 + 2000);
    expect([asked(), told]).toEqual([4, [undefined, 1, 'not-found', 'server-away', undefined, 2]]);
  });

  it('hears nothing any more once it has given up, neither asked nor waiting', async () => {
    for (const first of ['server-away', 7] as const) {
      const { told, giveUp } = bench(undefined, first);
      giveUp();
      await jest.advanceTimersByTimeAsync(60_000);
      expect(told).toEqual([]);
    }
    const { told, giveUp, asked } = bench(undefined, 'server-away', 7);
    await jest.advanceTimersByTimeAsync(1000);
    giveUp();
    await jest.advanceTimersByTimeAsync(60_000);
    expect([asked(), told]).toEqual([1, ['server-away']]);
  });
});

import { isDatabaseAway } from './away.js';
import { DeferredWrites } from './deferred-writes.js';
import type { DatabaseSession } from './session.js';

function writes() {
  const handlers: ((away: boolean) => void)[] = [];
  const session = { onState: (handler: (away: boolean) => void) => handlers.push(handler) };
  const deferred = new DeferredWrites(session as unknown as DatabaseSession);
  return { deferred, comeBack: () => handlers.forEach((handler) => handler(false)) };
}

const away = (): Promise<never> =>
  Promise.reject(Object.assign(new Error('terminating connection'), { code: '57P01' }));

describe('writes about what has happened', () => {
  it('are made at once while the database is here', async () => {
    const done: number[] = [];
    await writes().deferred.write(() => Promise.resolve(done.push(1)));
    expect(done).toEqual([1]);
  });

  it('wait in order while it is away, and a later one does not overtake', async () => {
    const { deferred, comeBack } = writes();
    const done: number[] = [];
    let isAway = true;
    const write = (i: number) => () => (isAway ? away() : Promise.resolve(done.push(i)));
    await deferred.write(write(1));
    isAway = false;
    await deferred.write(write(2));
    expect(done).toEqual([]);
    comeBack();
    await new Promise((resolve) => setTimeout(resolve, 10));
    expect(done).toEqual([1, 2]);
  });
});

// from: PostgreSQL, appendix "PostgreSQL Error Codes"; socket errors as the runtime names them
describe('the database is away', () => {
  it.each([
    [{ code: '57P01' }, true],
    [{ code: '08006' }, true],
    [{ code: 'ECONNREFUSED' }, true],
    [{ message: 'Connection terminated unexpectedly' }, true],
    [{ driverError: { code: '57P03' } }, true],
    [{ code: '23505' }, false],
    [{ message: 'syntax error' }, false],
    [undefined, false],
  ])('%j: %s', (error, isAway) => expect(isDatabaseAway(error)).toBe(isAway));
});

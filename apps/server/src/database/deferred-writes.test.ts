import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { DataSource } from 'typeorm';
import type { Configuration } from '../configuration.js';
import { DeferredWrites } from './deferred-writes.js';
import type { DatabaseSession } from './session.js';
import { Spool } from './spool.js';
import { troubleOf } from './trouble.js';

const AWAY = { code: '57P01' };

/** A database whose answer to each statement the test gives; done: what it took, in order. */
function writes(dataFolder = mkdtempSync(join(tmpdir(), 'mistpeak-spool-'))) {
  const handlers: ((away: boolean) => void)[] = [];
  const done: unknown[] = [];
  let failure: object | undefined;
  let isSlow = false;
  const dataSource = {
    query: async (_: string, [value]: unknown[]) => {
      if (isSlow) await new Promise((resolve) => setTimeout(resolve, 5));
      if (failure && value !== 'fine') throw Object.assign(new Error(), failure);
      done.push(value);
    },
  } as unknown as DataSource;
  const session = {
    onState: (handler: (away: boolean) => void) => handlers.push(handler),
    away: () => failure === AWAY,
  } as unknown as DatabaseSession;
  const deferred = new DeferredWrites(dataSource, session, new Spool({ dataFolder } as Configuration));
  return {
    deferred,
    done,
    dataFolder,
    write: (value: number | string) => deferred.write('INSERT', [value]),
    fail: (how: object | undefined) => (failure = how),
    slow: () => (isSlow = true),
    comeBack: () => {
      failure = undefined;
      handlers.forEach((handler) => handler(false));
    },
    settled: () => new Promise((resolve) => setTimeout(resolve, 60)),
  };
}

beforeAll(() => jest.spyOn(process.stderr, 'write').mockReturnValue(true));

describe('writes about what has happened', () => {
  it('are made at once while the database is here', async () => {
    const { write, done } = writes();
    expect(await write(1)).toBe(true);
    expect(done).toEqual([1]);
  });

  it('wait in order while it is away, and none overtakes another, also while they are caught up', async () => {
    const { write, done, fail, comeBack, slow, settled } = writes();
    fail(AWAY);
    expect(await write(1)).toBe(false);
    await write(2);
    slow();
    comeBack();
    // Asked for while the first ones are on their way.
    await write(3);
    await settled();
    expect(done).toEqual([1, 2, 3]);
  });

  it.each([
    ['has no space', { code: '53100' }],
    ['gives no answer', { message: 'Query read timeout' }],
  ])('wait while it %s', async (_, how) => {
    const { write, done, fail } = writes();
    fail(how);
    await write(1);
    fail(undefined);
    expect(await write(2)).toBe(true);
    expect(done).toEqual([1, 2]);
  });

  it('that it will never take do not hold up the others', async () => {
    const { write, done, fail } = writes();
    fail({ code: '22P05' });
    await write(1);
    expect(await write('fine')).toBe(true);
    expect(done).toEqual(['fine']);
  });

  it('that wait at the end go to the next process, before its own', async () => {
    const first = writes();
    first.fail(AWAY);
    await first.write(1);
    await first.write(2);
    await first.deferred.beforeApplicationShutdown();
    const second = writes(first.dataFolder);
    await second.deferred.begin();
    await second.write(3);
    expect(second.done).toEqual([1, 2, 3]);
    const third = writes(first.dataFolder);
    await third.deferred.begin();
    expect(third.done).toEqual([]);
  });
});

describe('a spool', () => {
  const spoolIn = (dataFolder: string | undefined) => new Spool({ dataFolder } as Configuration);

  it('passes over a damaged line', () => {
    const folder = mkdtempSync(join(tmpdir(), 'mistpeak-spool-'));
    const spool = spoolIn(folder);
    spool.keep('writes', [{ n: 1 }, { n: 2 }]);
    const file = join(folder, 'waiting-writes.jsonl');
    writeFileSync(file, `{"n":\n${readFileSync(file, 'utf8')}`);
    expect(spool.take('writes')).toEqual([{ n: 1 }, { n: 2 }]);
    expect(spool.take('writes')).toEqual([]);
  });

  it('without a folder keeps nothing, and says so', () => {
    spoolIn(undefined).keep('writes', [1]);
    expect(spoolIn(undefined).take('writes')).toEqual([]);
  });
});

// from: PostgreSQL, appendix "PostgreSQL Error Codes"; socket errors as the runtime names them
describe('the trouble with the database', () => {
  it.each([
    [{ code: '57P01' }, 'away'],
    [{ code: '08006' }, 'away'],
    [{ code: 'ECONNREFUSED' }, 'away'],
    [{ message: 'Connection terminated unexpectedly' }, 'away'],
    [{ driverError: { code: '57P03' } }, 'away'],
    [{ code: '53100' }, 'full'],
    [{ message: 'could not extend file: No space left on device' }, 'full'],
    [{ message: 'Query read timeout' }, 'silent'],
    [{ code: '57014' }, 'silent'],
    [{ code: '23505' }, 'content'],
    [{ code: '22P05' }, 'content'],
    [{ code: '42P01' }, 'other'],
    [{ message: 'syntax error' }, 'other'],
    [undefined, 'other'],
  ])('%j: %s', (error, trouble) => expect(troubleOf(error)).toBe(trouble));
});

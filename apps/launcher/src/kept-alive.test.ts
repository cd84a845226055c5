import { keepAlive, type Life } from './kept-alive.js';

/** Lives that the test ends, and a pace that tells how long was waited. */
function bench(failures: readonly boolean[] = []) {
  let nowMs = 0;
  const waits: number[] = [];
  const told: string[] = [];
  const ends: ((words: string) => void)[] = [];
  let starts = 0;
  let stopped = 0;
  const start = (): Promise<Life> => {
    if (failures[starts++]) return Promise.reject(new Error('no space'));
    return Promise.resolve({
      over: new Promise<string>((resolve) => ends.push(resolve)),
      stop: () => Promise.resolve(void stopped++),
    });
  };
  const pace = {
    nowMs: () => nowMs,
    wait: (ms: number) => {
      waits.push(ms);
      nowMs += ms;
      return Promise.resolve();
    },
  };
  return {
    begin: () => keepAlive('PostgreSQL', start, (words) => told.push(words), pace),
    waits,
    told,
    end: async (words: string, afterMs = 0) => {
      nowMs += afterMs;
      ends.at(-1)?.(words);
      for (let i = 0; i < 20; i++) await Promise.resolve();
    },
    starts: () => starts,
    stopped: () => stopped,
  };
}

describe('what is kept alive', () => {
  it('is started again after growing waits, to half a minute, and each time it is told', async () => {
    const { begin, end, waits, told } = bench();
    await begin();
    for (let i = 0; i < 7; i++) await end('killed');
    expect(waits).toEqual([1000, 2000, 4000, 8000, 16_000, 30_000, 30_000]);
    expect(told.slice(0, 2)).toEqual([
      'PostgreSQL ended (killed). It is started again in 1 s.',
      'PostgreSQL is back.',
    ]);
  });

  it('begins with short waits again once it has stood for a minute', async () => {
    const { begin, end, waits } = bench();
    await begin();
    await end('killed');
    await end('killed', 59_000);
    await end('killed', 60_000);
    expect(waits).toEqual([1000, 2000, 1000]);
  });

  it('is tried again when a start fails, and says why', async () => {
    const { begin, end, waits, told, starts } = bench([false, true, true]);
    await begin();
    await end('killed');
    expect([starts(), waits]).toEqual([4, [1000, 2000, 4000]]);
    expect(told.join(' ')).toMatch(/ended \(no space\)/);
  });

  it('is not begun at all when the first start fails', async () => {
    await expect(bench([true]).begin()).rejects.toThrow('no space');
  });

  it('is not started again after it was stopped', async () => {
    const { begin, end, starts, stopped } = bench();
    const kept = await begin();
    await kept.stop();
    await end('stopped');
    expect([starts(), stopped()]).toEqual([1, 1]);
  });
});

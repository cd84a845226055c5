import { disturbanceWords, processorTimes, watchMachine } from './machine-watch.js';

const stat = (...ticks: number[]): string => `cpu  ${ticks.join(' ')}\ncpu0 1 2 3 4 5 6 7 8 9 10\nintr 5\n`;

describe('the watch over a shared machine', () => {
  beforeEach(() => jest.useFakeTimers());
  afterEach(() => jest.useRealTimers());

  it('reads the times of all processors as proc(5) orders them', () => {
    expect(processorTimes(stat(1, 20, 300, 4000, 50000, 600000, 7000000, 80000000, 9, 9))).toEqual({
      busy: 7600321,
      taken: 80000000,
    });
    expect(processorTimes('nothing')).toEqual({ busy: 0, taken: 0 });
  });

  it('tells the share that was taken of the time with work, idle time left out', () => {
    const texts = [stat(100, 0, 0, 0, 0, 0, 0, 10), stat(160, 10, 15, 9000, 900, 3, 2, 20)];
    expect(watchMachine(() => texts.shift() as string)().takenShare).toBe(0.1);
    expect(watchMachine(() => stat(1, 1))().takenShare).toBe(0);
  });

  it('tells the longest time in which nothing ran', () => {
    let nowMs = 0;
    const over = watchMachine(
      () => stat(0),
      () => nowMs,
    );
    for (const gapMs of [250, 3250, 1000]) {
      nowMs += gapMs;
      jest.advanceTimersToNextTimer();
    }
    expect(over().longestStandstillS).toBe(3);
    expect(jest.getTimerCount()).toBe(0);
  });

  it('says so in words', () => {
    expect(disturbanceWords({ takenShare: 0.123, longestStandstillS: 4.26 })).toBe(
      'Of the machine 12 % was taken away; it stood still for 4.3 s at most.',
    );
  });
});

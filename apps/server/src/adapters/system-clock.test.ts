import { LONGEST_NAP_MS, sleepProof } from './system-clock.js';

/** Timers that stand still while the machine sleeps, and a clock that does not. */
function machine() {
  let upMs = 0;
  let waiting: { left: number; call: () => void }[] = [];
  const timer = (ms: number, call: () => void) => {
    const one = { left: ms, call };
    waiting.push(one);
    return () => (waiting = waiting.filter((other) => other !== one));
  };
  const awake = (ms: number): void => {
    for (let passed = 0; passed < ms; passed++) {
      upMs++;
      for (const one of waiting) one.left--;
      const due = waiting.filter(({ left }) => left <= 0);
      waiting = waiting.filter(({ left }) => left > 0);
      for (const { call } of due) call();
    }
  };
  return {
    after: sleepProof(() => upMs, timer),
    awake,
    sleep: (ms: number) => (upMs += ms),
    count: () => waiting.length,
  };
}

describe('a wait', () => {
  it.each([1, LONGEST_NAP_MS, LONGEST_NAP_MS + 1, 60_000])('of %i ms lasts so long', (ms) => {
    const { after, awake } = machine();
    let rang = 0;
    after(ms, () => rang++);
    awake(ms - 1);
    expect(rang).toBe(0);
    awake(1);
    expect(rang).toBe(1);
  });

  it('that the machine slept through ends within a nap after it wakes', () => {
    const { after, awake, sleep } = machine();
    let rang = 0;
    after(3_600_000, () => rang++);
    awake(1000);
    sleep(3_600_000);
    expect(rang).toBe(0);
    awake(LONGEST_NAP_MS);
    expect(rang).toBe(1);
  });

  it('that was cancelled in the middle leaves nothing behind', () => {
    const { after, awake, count } = machine();
    const cancel = after(20_000, () => fail('cancelled'));
    awake(12_000);
    cancel();
    awake(20_000);
    expect(count()).toBe(0);
  });
});

import { COARSE_EVERY_MS, fineUpMs, LONGEST_NAP_MS, sleepProof } from './system-clock.js';

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

  it('does not end before its time, though the timer rings early', () => {
    let upMs = 0;
    const rings: (() => void)[] = [];
    const asked: number[] = [];
    const after = sleepProof(
      () => upMs,
      (ms, call) => (asked.push(ms), rings.push(call), () => undefined),
    );
    let rang = 0;
    after(500, () => rang++);
    upMs = 499.6;
    rings[0]?.();
    expect([rang, asked]).toEqual([0, [500, 1]]);
    upMs = 500;
    rings[1]?.();
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

describe('the time since boot', () => {
  /** A coarse clock in steps of 10 ms, and a fine one. */
  function clocks() {
    let fine = 1003.7;
    let slept = 0;
    let looks = 0;
    const up = fineUpMs(
      () => (looks++, Math.floor((fine + slept + 5000) / 10) * 10),
      () => fine,
    );
    return {
      up,
      looks: () => looks,
      pass: (ms: number) => (fine += ms),
      sleep: (ms: number) => (slept += ms),
    };
  }

  it('is told finely, and never goes back', () => {
    const { up, pass } = clocks();
    const first = up();
    pass(0.25);
    expect(up() - first).toBeCloseTo(0.25);
    let last = up();
    for (let i = 0; i < 1000; i++) {
      pass(0.37);
      expect(up() - last).toBeCloseTo(0.37);
      last = up();
    }
  });

  it('counts sleep, to the step of the coarse clock', () => {
    const { up, sleep, pass } = clocks();
    const first = up();
    sleep(60_000);
    pass(COARSE_EVERY_MS);
    expect(Math.abs(up() - first - COARSE_EVERY_MS - 60_000)).toBeLessThanOrEqual(10);
    const awake = up();
    pass(5);
    expect(up() - awake).toBeCloseTo(5);
  });

  it('is looked up at the coarse clock now and then only', () => {
    const { up, pass, looks } = clocks();
    for (let i = 0; i < 1000; i++) {
      up();
      pass(COARSE_EVERY_MS / 10);
    }
    // Once at the start, and once in ten.
    expect(looks()).toBe(101);
  });
});

import { Timetable } from '@mistpeak/core/network/timetable';
import { every } from './clock.js';

describe('every', () => {
  it('calls again and again, that far apart, until it is ended', () => {
    const clock = new Timetable();
    const calls: number[] = [];
    const end = every(clock, 100, () => calls.push(clock.nowMs()));
    clock.advance(399);
    expect(calls).toEqual([100, 200, 300]);
    end();
    clock.advance(1000);
    expect(calls).toHaveLength(3);
    expect(clock.leftovers()).toBe(0);
  });

  it('can be ended from within its call', () => {
    const clock = new Timetable();
    let calls = 0;
    const end = every(clock, 100, () => {
      if (++calls === 2) end();
    });
    clock.advance(1000);
    expect([calls, clock.leftovers()]).toEqual([2, 0]);
  });
});

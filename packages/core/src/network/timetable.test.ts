import fc from 'fast-check';
import { Timetable } from './timetable.js';

describe('a timetable', () => {
  it('does things in order of time, then of request, and nothing that was cancelled', () => {
    const entry = fc.record({ ms: fc.nat(20), cancelled: fc.boolean() });
    fc.assert(
      fc.property(fc.array(entry, { maxLength: 60 }), (entries) => {
        const table = new Timetable();
        const done: number[] = [];
        const cancels = entries.map(({ ms }, i) => table.after(ms, () => void done.push(i)));
        entries.forEach(({ cancelled }, i) => cancelled && cancels[i]?.());
        const kept = entries.map((one, i) => ({ ...one, i })).filter(({ cancelled }) => !cancelled);
        expect(table.leftovers()).toBe(kept.length);
        table.advance(20);
        expect(done).toEqual(kept.sort((a, b) => a.ms - b.ms || a.i - b.i).map(({ i }) => i));
        expect([table.leftovers(), table.nowMs()]).toEqual([0, 20]);
      }),
    );
  });

  it('goes on from what it does, and no further than it is told', () => {
    const table = new Timetable(100);
    const times: number[] = [];
    const again = (): void => {
      times.push(table.nowMs());
      table.after(10, again);
    };
    table.after(10, again);
    table.advance(35);
    expect(times).toEqual([110, 120, 130]);
    expect([table.nowMs(), table.next(139), table.next(140)]).toEqual([135, false, true]);
  });
});

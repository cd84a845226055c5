import { drive } from '../machine/drive.js';
import { seededDice } from '../network/dice.js';
import { Timetable } from '../network/timetable.js';
import {
  BACK_OFF_MS,
  LONGEST_BACK_OFF_MS,
  LOOK_AGAIN_MS,
  OFF,
  step,
  type Schedule,
  type ScheduleContext,
  type ScheduleEffect,
  type ScheduleEvent,
  type ScheduleRules,
} from './schedule.js';

const MIN = 60_000;
const HERE = { latitudeDeg: -29.6, longitudeDeg: -11.4 };
const RULES: ScheduleRules = {
  plan: { kind: 'interval', everyMs: 5 * MIN },
  leastGapMs: 20_000,
  jitterMs: 0,
  busyAbove: 0.5,
};

/** A schedule on a timetable; what is sent is answered at once, unless it is told otherwise. */
function rig(rules: Partial<ScheduleRules> = {}, dice = (): number => 1) {
  const clock = new Timetable();
  const world = { isArmed: true, busy: 0, answer: 'sent' as 'sent' | 'failed' | 'none' };
  const sent: number[] = [];
  const finished: number[] = [];
  const driven = drive<Schedule, ScheduleEvent, ScheduleEffect, ScheduleContext>(step, OFF, {
    clock,
    dice,
    context: (moment) => ({
      ...moment,
      rules: { ...RULES, ...rules },
      isArmed: world.isArmed,
      busy: world.busy,
    }),
    perform: (effect) => {
      if (effect.kind === 'finished') finished.push(clock.nowMs());
      if (effect.kind !== 'send') return;
      sent.push(clock.nowMs());
      if (world.answer !== 'none') driven.dispatch({ kind: world.answer });
    },
  });
  const fix = (more: object = {}): void =>
    driven.dispatch({ kind: 'fix', fix: { atMs: clock.nowMs(), position: HERE, ...more } });
  return { clock, world, sent, finished, driven, fix };
}

describe('a schedule', () => {
  it('is off until it is begun, and waits for a position', () => {
    const { clock, sent, driven, fix } = rig();
    fix();
    clock.advance(MIN);
    expect(sent).toEqual([]);
    driven.dispatch({ kind: 'begin' });
    expect(sent).toEqual([MIN]);
    clock.advance(11 * MIN);
    expect(sent.map((ms) => ms / MIN)).toEqual([1, 6, 11]);
    driven.dispatch({ kind: 'end' });
    expect(clock.leftovers()).toBe(0);
    const nowhere = rig();
    nowhere.driven.dispatch({ kind: 'begin' });
    expect(nowhere.driven.state().waitsFor).toBe('position');
    nowhere.fix();
    expect(nowhere.sent).toEqual([0]);
  });

  it('adds its jitter to intervals, drawn anew each time', () => {
    const { clock, sent, driven, fix } = rig({ jitterMs: 40_000 }, seededDice(3));
    driven.dispatch({ kind: 'begin' });
    fix();
    clock.advance(12 * MIN);
    expect(sent.length).toBe(3);
    for (const [i, ms] of sent.slice(1).entries()) {
      const gap = ms - (sent[i] as number);
      expect(gap).toBeGreaterThanOrEqual(5 * MIN);
      expect(gap).toBeLessThanOrEqual(5 * MIN + 40_000);
    }
    expect(new Set(sent.map((ms, i) => ms - (sent[i - 1] ?? 0))).size).toBe(3);
  });

  it('keeps the least gap, whatever the plan asks', () => {
    const { clock, sent, driven, fix } = rig({ plan: { kind: 'interval', everyMs: 1000 } });
    driven.dispatch({ kind: 'begin' });
    fix();
    clock.advance(61_000);
    expect(sent).toEqual([0, 20_000, 40_000, 60_000]);
  });

  it('waits for the lock, looks again, and sends as soon as it is told that it is open', () => {
    const { clock, sent, driven, world, fix } = rig();
    world.isArmed = false;
    driven.dispatch({ kind: 'begin' });
    fix();
    expect(driven.state().waitsFor).toBe('lock');
    clock.advance(2000);
    world.isArmed = true;
    clock.advance(LOOK_AGAIN_MS - 2001);
    expect(sent).toEqual([]);
    clock.advance(1);
    expect(sent).toEqual([LOOK_AGAIN_MS]);
    world.isArmed = false;
    clock.advance(5 * MIN);
    world.isArmed = true;
    driven.dispatch({ kind: 'look' });
    expect(sent).toEqual([LOOK_AGAIN_MS, 5 * MIN + LOOK_AGAIN_MS]);
    expect(driven.state().waitsFor).toBeUndefined();
  });

  it('gives way to a busy channel, a little longer each time, and never for ever', () => {
    const { clock, sent, driven, world, fix } = rig();
    world.busy = 0.51;
    driven.dispatch({ kind: 'begin' });
    fix();
    expect(driven.state()).toMatchObject({ waitsFor: 'channel', nextAtMs: BACK_OFF_MS });
    clock.advance(BACK_OFF_MS);
    expect(driven.state().nextAtMs).toBe(3 * BACK_OFF_MS);
    for (let i = 0; i < 10; i++) clock.advance(LONGEST_BACK_OFF_MS);
    expect((driven.state().nextAtMs as number) - clock.nowMs()).toBeLessThanOrEqual(LONGEST_BACK_OFF_MS);
    world.busy = 0.5;
    clock.advance(LONGEST_BACK_OFF_MS);
    expect(sent).toHaveLength(1);
    expect(driven.state().postponed).toBe(0);
  });

  it('stops after so many, and once is once', () => {
    const { clock, sent, finished, driven, fix } = rig({ stopAfter: 2 });
    driven.dispatch({ kind: 'begin' });
    fix();
    clock.advance(60 * MIN);
    expect([sent.length, finished]).toEqual([2, [5 * MIN]]);
    expect([driven.state().isOn, clock.leftovers()]).toEqual([false, 0]);
    driven.dispatch({ kind: 'begin' });
    clock.advance(60 * MIN);
    expect(sent).toHaveLength(4);
    const once = rig({ plan: { kind: 'once' } });
    once.driven.dispatch({ kind: 'begin' });
    once.fix();
    once.clock.advance(60 * MIN);
    expect([once.sent, once.driven.state().isOn]).toEqual([[0], false]);
  });

  it('a test interval turns itself back', () => {
    const { clock, sent, driven, fix } = rig({ stopAfter: 3 });
    driven.dispatch({ kind: 'begin' });
    fix();
    driven.dispatch({ kind: 'test', everyMs: 30_000, forMs: 2 * MIN });
    expect(driven.state().test).toEqual({ everyMs: 30_000, untilMs: 2 * MIN });
    clock.advance(2 * MIN);
    expect(sent.map((ms) => ms / 1000)).toEqual([0, 30, 60, 90]);
    expect(driven.state().test).toBeUndefined();
    clock.advance(4.5 * MIN - 1);
    expect(sent).toHaveLength(4);
    clock.advance(1);
    // One more by the plan; then it has sent enough.
    expect([sent.length, driven.state().isOn]).toEqual([5, false]);
  });

  it('tries again when it could not be sent, not before the least gap', () => {
    const { clock, sent, driven, world, fix } = rig();
    world.answer = 'failed';
    driven.dispatch({ kind: 'begin' });
    fix();
    clock.advance(19_999);
    expect(sent).toEqual([0]);
    clock.advance(1);
    expect(sent).toEqual([0, 20_000]);
    expect(driven.state().sent).toBe(0);
  });

  it('sends nothing more while one is on its way', () => {
    const { clock, sent, driven, world, fix } = rig();
    world.answer = 'none';
    driven.dispatch({ kind: 'begin' });
    fix();
    fix();
    driven.dispatch({ kind: 'look' });
    clock.advance(60 * MIN);
    expect(sent).toEqual([0]);
  });

  it('goes on where an earlier run left off', () => {
    const { clock, sent, driven, fix } = rig({ stopAfter: 3 });
    clock.advance(10 * MIN);
    fix();
    driven.dispatch({
      kind: 'begin',
      before: { last: { fix: { atMs: 8 * MIN, position: HERE }, standing: 0 }, sent: 2 },
    });
    clock.advance(60 * MIN);
    // The third is the last.
    expect([sent, driven.state().isOn]).toEqual([[13 * MIN], false]);
  });

  it('a turn is sent at the moment in which it is told of', () => {
    const { clock, sent, driven, fix } = rig({
      plan: { kind: 'distance', everyM: 100, longestMs: 30 * MIN },
      jitterMs: 60_000,
    });
    driven.dispatch({ kind: 'begin' });
    fix();
    clock.advance(30_000);
    fix({ position: { latitudeDeg: -29.61, longitudeDeg: -11.4 } });
    expect(sent).toEqual([0, 30_000]);
  });

  it('in a thousand seeds of bad luck keeps its least gap, sends nothing without the lock, and leaves nothing behind', () => {
    for (let seed = 1; seed <= 1000; seed++) {
      const dice = seededDice(seed);
      const { clock, world, sent, driven, fix } = rig(
        { plan: { kind: 'interval', everyMs: 1000 + dice() * 10 * MIN }, jitterMs: dice() * MIN },
        dice,
      );
      const locked: number[] = [];
      for (let i = 0; i < 60; i++) {
        const pick = Math.floor(dice() * 9);
        if (pick === 0) driven.dispatch({ kind: 'begin' });
        if (pick === 1) driven.dispatch({ kind: 'end' });
        if (pick === 2)
          driven.dispatch({ kind: 'test', everyMs: 1000 + dice() * MIN, forMs: dice() * 5 * MIN });
        if (pick === 3) world.isArmed = dice() < 0.5;
        if (pick === 4) world.busy = dice();
        if (pick === 5) world.answer = dice() < 0.8 ? 'sent' : 'failed';
        if (pick > 5) fix({ speedMps: dice() * 20 });
        const before = sent.length;
        const wasArmed = world.isArmed;
        clock.advance(dice() * MIN);
        if (!wasArmed && sent.length > before) locked.push(seed);
      }
      expect(locked).toEqual([]);
      driven.dispatch({ kind: 'end' });
      expect(clock.leftovers()).toBe(0);
    }
  });
});

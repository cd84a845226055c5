import fc from 'fast-check';
import { armedCall, IDLE_LIMIT_MS, SHUT, step, stillPermits, type Lock, type LockEvent } from './lock.js';

/** An event and when it comes. */
type Timed = readonly [LockEvent, number];

const arm = (atMs: number, call = '1X9TST-7'): Timed => [{ kind: 'arm', call }, atMs];
const close: Timed = [{ kind: 'close' }, 0];
const touch = (atMs: number, closings = 0): Timed => [{ kind: 'touch', permit: { closings } }, atMs];
const idle: Timed = [{ kind: 'timer', timer: 'idle' }, 0];
const stepAt = (lock: Lock, [event, atMs]: Timed) => step(lock, event, { atMs });
const play = (...events: Timed[]): Lock => events.reduce((lock, event) => stepAt(lock, event)[0], SHUT);

describe('the transmit lock', () => {
  it.each([
    ['is shut at first', [], 0, undefined],
    ['is armed for the call', [arm(0)], 0, '1X9TST-7'],
    ['to the last ms of an idle hour', [arm(0)], IDLE_LIMIT_MS - 1, '1X9TST-7'],
    ['and no longer', [arm(0)], IDLE_LIMIT_MS, undefined],
    ['is kept open by what leaves', [arm(0), touch(1000)], IDLE_LIMIT_MS + 999, '1X9TST-7'],
    ['an hour from then', [arm(0), touch(1000)], IDLE_LIMIT_MS + 1000, undefined],
    ['is not opened by what leaves too late', [arm(0), touch(IDLE_LIMIT_MS)], IDLE_LIMIT_MS, undefined],
    ['is shut', [arm(0), close], 0, undefined],
    ['is not opened by what left before it was shut', [arm(0), close, touch(1)], 1, undefined],
    ['is shut by its timer', [arm(0), idle], 1, undefined],
    ['can be armed again', [arm(0), close, arm(5)], 6, '1X9TST-7'],
    ['can be armed for another call', [arm(0), arm(5, '1X9TST-9')], 6, '1X9TST-9'],
  ] as [string, Timed[], number, string | undefined][])('%s', (_, events, nowMs, call) =>
    expect(armedCall(play(...events), nowMs)).toBe(call),
  );

  it('lasts an hour', () => expect(IDLE_LIMIT_MS).toBe(3_600_000));

  it('keeps nobody’s hour longer by a frame of an earlier arming', () => {
    const lock = play(arm(0), close, arm(10), touch(1000, 0));
    expect(lock.armed?.expiresAtMs).toBe(10 + IDLE_LIMIT_MS);
  });

  it('counts each closing, and a touch that comes too late as one', () => {
    expect(play(close, close).closings).toBe(2);
    expect(play(arm(0), touch(IDLE_LIMIT_MS)).closings).toBe(1);
    expect(play(touch(5)).closings).toBe(0);
  });

  it('armed for another call ends what was permitted to the first; also when its hour is over; for the same call not', () => {
    const permit = { closings: 0 };
    expect(stillPermits(play(arm(0), arm(5)), permit, 6)).toBe(true);
    expect(stillPermits(play(arm(0), arm(5, '1X9TST-9')), permit, 6)).toBe(false);
    expect(play(arm(0), arm(IDLE_LIMIT_MS)).closings).toBe(1);
    expect(play(arm(5)).closings).toBe(0);
  });

  it('starts its timer with each arming and touch, and stops it when shut', () => {
    const lock = play(arm(0));
    expect(stepAt(SHUT, arm(0))[1]).toEqual([{ kind: 'start', timer: 'idle', ms: IDLE_LIMIT_MS }]);
    expect(stepAt(lock, touch(9))[1]).toEqual([{ kind: 'start', timer: 'idle', ms: IDLE_LIMIT_MS }]);
    expect(stepAt(lock, close)[1]).toEqual([{ kind: 'stop', timer: 'idle' }]);
  });

  it('whatever happens, a permit of before a closing permits nothing after it', () => {
    const event = fc.oneof(
      fc.nat(3).map((n) => arm(n * IDLE_LIMIT_MS)),
      fc.constant(close),
      fc.tuple(fc.nat(3), fc.nat(5)).map(([n, closings]) => touch(n * IDLE_LIMIT_MS, closings)),
      fc.constant(idle),
    );
    fc.assert(
      fc.property(fc.array(event), fc.array(event), (before, after) => {
        const earlier = play(...before);
        const permit = { closings: earlier.closings };
        const closed = stepAt(earlier, close)[0];
        const later = after.reduce((lock, one) => stepAt(lock, one)[0], closed);
        expect(stillPermits(later, permit, 0)).toBe(false);
      }),
    );
  });
});

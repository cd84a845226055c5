import fc from 'fast-check';
import {
  OPENING_LIMIT_MS,
  QUIET_AFTER_MS,
  SETTLED_AFTER_MS,
  step,
  type LinkEffect,
  type LinkLifeEvent,
  type LinkState,
  type LinkTimer,
} from './life.js';
import { waitBeforeRetryMs } from './reconnect.js';

const play = (events: readonly LinkLifeEvent[], state: LinkState = { phase: 'closed' }): LinkState =>
  events.reduce((now, event) => step(now, event, { dice: 0 })[0], state);

const open: LinkLifeEvent = { kind: 'open' };
const opened: LinkLifeEvent = { kind: 'opened' };
const heard: LinkLifeEvent = { kind: 'heard' };
const failed: LinkLifeEvent = { kind: 'failed', reason: 'refused' };
const timer = (name: LinkTimer): LinkLifeEvent => ({ kind: 'timer', timer: name });
const transmit: LinkLifeEvent = { kind: 'transmit', airTimeMs: 700 };

describe('the life of a link', () => {
  it.each([
    ['opens and is silent', [open, opened], 'silent'],
    ['hears', [open, opened, heard], 'hearing'],
    ['is quiet after ten minutes', [open, opened, heard, timer('quiet')], 'silent'],
    ['transmits', [open, opened, transmit], 'transmitting'],
    ['hears again after transmitting', [open, opened, heard, transmit, timer('transmit')], 'hearing'],
    ['hears while transmitting', [open, opened, transmit, heard, timer('transmit')], 'hearing'],
    ['fails', [open, failed], 'failed'],
    ['is tried again', [open, failed, timer('retry')], 'opening'],
    ['opening takes too long', [open, timer('opening')], 'failed'],
    ['closes in every state', [open, opened, heard, transmit, { kind: 'close' }], 'closed'],
    ['closed hears nothing', [heard, opened, transmit, failed], 'closed'],
  ] as [string, LinkLifeEvent[], string][])('%s', (_, events, phase) =>
    expect(play(events).phase).toBe(phase),
  );

  it.each([
    ['a link that hears', [open, opened, heard]],
    ['a link that heard and transmits', [open, opened, heard, transmit]],
  ] as [string, LinkLifeEvent[]][])(
    '%s stays the same with every further frame, its quiet put off',
    (_, events) => {
      const state = play(events);
      const [next, effects] = step(state, heard, { dice: 0 });
      expect(next).toBe(state);
      expect(effects).toEqual([{ kind: 'start', timer: 'quiet', ms: QUIET_AFTER_MS }]);
    },
  );

  it('waits longer after each failure and starts anew after success', () => {
    const waits: number[] = [];
    let state: LinkState = { phase: 'closed' };
    for (const event of [open, failed, timer('retry'), failed, timer('retry'), failed]) {
      state = play([event], state);
      if (state.phase === 'failed') waits.push(state.retryInMs);
    }
    expect(waits).toEqual([1000, 2000, 4000]);
    const settled = [timer('retry'), opened, timer('settled'), failed];
    expect(play(settled, state)).toMatchObject({ attempt: 1, retryInMs: 1000 });
  });

  it.each([
    ['at once', [opened]],
    ['after a frame', [opened, heard]],
    ['while it transmits', [opened, transmit]],
    ['after it transmitted', [opened, transmit, timer('transmit')]],
    ['after it fell silent', [opened, heard, timer('quiet')]],
  ] as [string, LinkLifeEvent[]][])('a far end that hangs up %s is tried with growing waits', (_, events) => {
    let state = play([open]);
    const waits: number[] = [];
    for (let i = 0; i < 6; i++) {
      state = play([...events, failed], state);
      if (state.phase === 'failed') waits.push(state.retryInMs);
      state = play([timer('retry')], state);
    }
    expect(waits).toEqual([1000, 2000, 4000, 8000, 16_000, 30_000]);
  });

  it.each([
    [1, 0, 1000],
    [6, 0, 30_000],
    [6, 1, 37_500],
    [1000, 0, 30_000],
  ])('attempt %i, dice %i: %i ms', (attempt, dice, ms) => expect(waitBeforeRetryMs(attempt, dice)).toBe(ms));

  it('allows a blocked port half a minute, a quiet channel ten, and counts a wire as standing after half a minute', () => {
    expect([OPENING_LIMIT_MS, QUIET_AFTER_MS, SETTLED_AFTER_MS]).toEqual([30_000, 600_000, 30_000]);
  });
});

/** Any order of events: the machine never stands still without a timer that leads on, and never holds two wires. */
describe('in any order of events', () => {
  const anyEvent = fc.constantFrom(
    open,
    opened,
    heard,
    transmit,
    failed,
    { kind: 'close' } as const,
    timer('opening'),
    timer('retry'),
    timer('quiet'),
    timer('transmit'),
    timer('settled'),
  );

  it('connects only when nothing is held, and stops every timer when closed', () => {
    fc.assert(
      fc.property(fc.array(anyEvent, { maxLength: 60 }), (events) => {
        let state: LinkState = { phase: 'closed' };
        let held = false;
        const timers = new Set<string>();
        for (const event of events) {
          // A timer fires only while it runs.
          if (event.kind === 'timer' && !timers.delete(event.timer)) continue;
          const [next, effects] = step(state, event, { dice: 0 });
          held = effects.reduce((was, effect) => applied(effect, was, timers), held);
          state = next;
          if (state.phase === 'closed') expect([held, timers.size]).toEqual([false, 0]);
          if (state.phase === 'opening') expect(timers.has('opening')).toBe(true);
          if (state.phase === 'failed') expect([...timers]).toEqual(['retry']);
          if (state.phase === 'transmitting') expect(timers.has('transmit')).toBe(true);
        }
      }),
      { numRuns: 500 },
    );
  });

  function applied(effect: LinkEffect, held: boolean, timers: Set<string>): boolean {
    if (effect.kind === 'start') timers.add(effect.timer);
    if (effect.kind === 'stop') timers.delete(effect.timer);
    if (effect.kind === 'connect') expect(held).toBe(false);
    return effect.kind === 'connect' || (held && effect.kind !== 'disconnect');
  }
});

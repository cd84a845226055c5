import {
  start,
  stop,
  type Moment,
  type Stepped,
  type TimerEffect,
  type TimerEvent,
} from '../machine/machine.js';
import { dueAtMs, noteSent, type BeaconPlan, type Fix, type LastBeacon } from './plan.js';

/**
 * The beacons of one way out, sent by a plan.
 *
 *   off --begin--> on --due, lock open, channel clear--> sending --sent--> on
 *                                                       sending --failed--> on, after the least gap
 *   on --due, lock shut--> on, waiting for the lock
 *   on --due, channel busy--> on, waiting for the channel, a little longer each time
 *   on --test--> on by a short interval --test over--> on by the plan
 *   on --end, or sent often enough--> off
 *
 * Times in ms of a clock that only goes forward. A position that nobody tells of is waited for.
 */
export interface Schedule {
  readonly isOn: boolean;
  readonly fix?: Fix;
  readonly last?: LastBeacon;
  readonly sent: number;
  readonly sending: boolean;
  /** Drawn anew after each beacon, so that two stations that began together do not stay together. */
  readonly jitterMs: number;
  readonly postponed: number;
  readonly notBeforeMs: number;
  readonly test?: { readonly everyMs: number; readonly untilMs: number };
  readonly waitsFor?: Waiting;
  /** When the next is due as things stand; absent where nobody knows. */
  readonly nextAtMs?: number;
}

export type Waiting = 'position' | 'lock' | 'channel';

/** stopAfter: so many, then off; absent: until somebody says so. busyAbove: share of the channel in use from which on it waits, 0–1. */
export interface ScheduleRules {
  readonly plan: BeaconPlan;
  readonly leastGapMs: number;
  readonly jitterMs: number;
  readonly stopAfter?: number;
  readonly busyAbove: number;
}

export type ScheduleEvent =
  /** before: what an earlier run had sent, where it is to go on. */
  | { readonly kind: 'begin'; readonly before?: { readonly last: LastBeacon; readonly sent: number } }
  | { readonly kind: 'end' }
  | { readonly kind: 'fix'; readonly fix: Fix }
  | { readonly kind: 'sent' }
  | { readonly kind: 'failed' }
  /** The lock, the channel or the rules are not what they were. */
  | { readonly kind: 'look' }
  | { readonly kind: 'test'; readonly everyMs: number; readonly forMs: number }
  | TimerEvent;

export type ScheduleEffect =
  | TimerEffect<'due' | 'test'>
  | { readonly kind: 'send'; readonly fix: Fix }
  | { readonly kind: 'finished' };

export interface ScheduleContext extends Moment {
  readonly rules: ScheduleRules;
  readonly isArmed: boolean;
  /** Share of the last minutes in which others held the channel, 0–1. */
  readonly busy: number;
}

type Outcome = Stepped<Schedule, ScheduleEffect>;

export const OFF: Schedule = {
  isOn: false,
  sent: 0,
  sending: false,
  jitterMs: 0,
  postponed: 0,
  notBeforeMs: -Infinity,
};

/** How often a shut lock is looked at again, and by how much a busy channel postpones, doubled up to the last. */
export const LOOK_AGAIN_MS = 5000;
export const BACK_OFF_MS = 20_000;
export const LONGEST_BACK_OFF_MS = 320_000;

export function step(state: Schedule, event: ScheduleEvent, context: ScheduleContext): Outcome {
  const { atMs, dice, rules } = context;
  switch (event.kind) {
    case 'begin':
      return reckon(
        { ...state, isOn: true, sent: 0, postponed: 0, notBeforeMs: -Infinity, ...event.before },
        context,
      );
    case 'end':
      return off(state);
    case 'fix':
      return reckon({ ...state, fix: event.fix }, context);
    case 'look':
      return reckon(state, context);
    case 'test':
      return addEffects(
        reckon(
          { ...state, isOn: true, test: { everyMs: event.everyMs, untilMs: atMs + event.forMs } },
          context,
        ),
        start('test', event.forMs),
      );
    case 'sent': {
      const fix = { ...(state.fix as Fix), atMs };
      const sent = state.sent + 1;
      const next: Schedule = {
        ...state,
        sending: false,
        sent,
        postponed: 0,
        jitterMs: dice * rules.jitterMs,
        last: noteSent(state.last, fix),
      };
      const isEnough = rules.stopAfter !== undefined && sent >= rules.stopAfter && !state.test;
      return isEnough || (rules.plan.kind === 'once' && !state.test)
        ? addEffects(off(next), { kind: 'finished' })
        : reckon(next, context);
    }
    case 'failed':
      return reckon(
        { ...state, sending: false, notBeforeMs: atMs + Math.max(rules.leastGapMs, LOOK_AGAIN_MS) },
        context,
      );
    case 'timer':
      return reckon(event.timer === 'test' ? without(state, 'test') : state, context);
  }
}

function off(state: Schedule): Outcome {
  const next = without(without(without(state, 'test'), 'waitsFor'), 'nextAtMs');
  return [{ ...next, isOn: false, sending: false }, [stop('due'), stop('test')]];
}

/** Sends what is due, or says what it waits for and looks again when it is time. */
function reckon(state: Schedule, context: ScheduleContext): Outcome {
  const { atMs, dice, rules, isArmed, busy } = context;
  if (!state.isOn || state.sending) return [state, []];
  const { fix } = state;
  if (!fix) return [{ ...without(state, 'nextAtMs'), waitsFor: 'position' }, [stop('due')]];
  const dueMs = dueOf(state, { ...fix, atMs }, rules);
  if (dueMs > atMs) {
    const next: Schedule = {
      ...without(state, 'waitsFor'),
      ...(Number.isFinite(dueMs) ? { nextAtMs: dueMs } : {}),
    };
    if (!Number.isFinite(dueMs)) return [without(next, 'nextAtMs'), [stop('due')]];
    return [next, [start('due', dueMs - atMs)]];
  }
  if (!isArmed) return [{ ...without(state, 'nextAtMs'), waitsFor: 'lock' }, [start('due', LOOK_AGAIN_MS)]];
  if (busy > rules.busyAbove) {
    const waitMs = Math.min(LONGEST_BACK_OFF_MS, BACK_OFF_MS * 2 ** state.postponed) * (0.5 + dice / 2);
    const postponed = {
      ...state,
      waitsFor: 'channel' as const,
      postponed: state.postponed + 1,
      notBeforeMs: atMs + waitMs,
      nextAtMs: atMs + waitMs,
    };
    return [postponed, [start('due', waitMs)]];
  }
  return [
    { ...without(without(state, 'waitsFor'), 'nextAtMs'), sending: true },
    [stop('due'), { kind: 'send', fix }],
  ];
}

function dueOf({ last, test, jitterMs, notBeforeMs }: Schedule, now: Fix, rules: ScheduleRules): number {
  const plan: BeaconPlan = test ? { kind: 'interval', everyMs: test.everyMs } : rules.plan;
  const due = dueAtMs(plan, last, now);
  // The jitter belongs to intervals: what a turn or a distance asks for is due now.
  const jittered = last && due > now.atMs && !test ? due + jitterMs : due;
  const gapped = last ? Math.max(jittered, last.fix.atMs + rules.leastGapMs) : jittered;
  return Math.max(gapped, notBeforeMs);
}

function without<Key extends 'test' | 'waitsFor' | 'nextAtMs'>(state: Schedule, key: Key): Schedule {
  const { [key]: _, ...rest } = state;
  return rest as Schedule;
}

const addEffects = ([state, effects]: Outcome, ...more: readonly ScheduleEffect[]): Outcome => [
  state,
  [...effects, ...more],
];

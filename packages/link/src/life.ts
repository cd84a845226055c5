import {
  start,
  stop,
  type Moment,
  type Stepped,
  type TimerEffect,
  type TimerEvent,
} from '@mistpeak/core/machine/machine';
import type { LinkFailure } from './failure.js';
import { waitBeforeRetryMs } from './reconnect.js';

/**
 * The life of one link.
 *
 *   closed --open--> opening --opened--> silent --heard--> hearing --10 min--> silent
 *   opening|silent|hearing|transmitting --failed--> failed --timer--> opening
 *   silent|hearing --transmit--> transmitting --timer--> silent|hearing
 *   any --close--> closed
 *
 * attempt counts openings that did not last: one that fails before it has stood half a minute makes the next wait longer.
 */
export type LinkState =
  | { readonly phase: 'closed' }
  | { readonly phase: 'opening'; readonly attempt: number }
  | { readonly phase: 'silent'; readonly attempt: number }
  | { readonly phase: 'hearing'; readonly attempt: number }
  | { readonly phase: 'transmitting'; readonly attempt: number; readonly then: 'silent' | 'hearing' }
  | {
      readonly phase: 'failed';
      readonly reason: LinkFailure;
      readonly attempt: number;
      readonly retryInMs: number;
    };

export type LinkTimer = 'opening' | 'retry' | 'quiet' | 'transmit' | 'settled';

export type LinkLifeEvent =
  | { readonly kind: 'open' }
  | { readonly kind: 'opened' }
  | { readonly kind: 'heard' }
  | { readonly kind: 'transmit'; readonly airTimeMs: number }
  | { readonly kind: 'failed'; readonly reason: LinkFailure }
  | { readonly kind: 'close' }
  | TimerEvent;

export type LinkEffect =
  | { readonly kind: 'connect' }
  | { readonly kind: 'disconnect' }
  | TimerEffect<LinkTimer>;

/** A Bluetooth serial port may block this long before it opens (common practice, no source). */
export const OPENING_LIMIT_MS = 30_000;
/** "TNC talks" fades after ten minutes without any frame. */
export const QUIET_AFTER_MS = 600_000;

/** A wire that has stood this long is not one that hangs up at once. */
export const SETTLED_AFTER_MS = 30_000;

const ALL_TIMERS: readonly LinkTimer[] = ['opening', 'retry', 'quiet', 'transmit', 'settled'];
const stopAll: readonly LinkEffect[] = ALL_TIMERS.map((timer) => stop(timer));

/** dice: so that many links that failed together do not knock at the same moment. */
export function step(
  state: LinkState,
  event: LinkLifeEvent,
  { dice }: Pick<Moment, 'dice'>,
): Stepped<LinkState, LinkEffect> {
  switch (event.kind) {
    case 'open':
      return state.phase === 'closed' || state.phase === 'failed' ? connect(0) : [state, []];
    case 'close':
      return state.phase === 'closed'
        ? [state, []]
        : [{ phase: 'closed' }, [...stopAll, { kind: 'disconnect' }]];
    case 'opened':
      return opened(state);
    case 'heard':
      return heard(state);
    case 'transmit':
      return transmit(state, event.airTimeMs);
    case 'failed':
      return fail(state, event.reason, dice);
    case 'timer':
      return timedOut(state, event.timer, dice);
  }
}

function connect(attempt: number): Stepped<LinkState, LinkEffect> {
  return [
    { phase: 'opening', attempt },
    [stop('retry'), { kind: 'connect' }, start('opening', OPENING_LIMIT_MS)],
  ];
}

function opened(state: LinkState): Stepped<LinkState, LinkEffect> {
  if (state.phase !== 'opening') return [state, []];
  return [{ phase: 'silent', attempt: state.attempt }, [stop('opening'), start('settled', SETTLED_AFTER_MS)]];
}

function heard(state: LinkState): Stepped<LinkState, LinkEffect> {
  const quiet = start('quiet' as const, QUIET_AFTER_MS);
  if (state.phase === 'silent') return [{ ...state, phase: 'hearing' }, [quiet]];
  if (state.phase === 'transmitting' && state.then === 'silent')
    return [{ ...state, then: 'hearing' }, [quiet]];
  // Nothing is new for those who watch: this comes with every frame.
  return [state, isStanding(state) ? [quiet] : []];
}

function isStanding(
  state: LinkState,
): state is Extract<LinkState, { phase: 'silent' | 'hearing' | 'transmitting' }> {
  return state.phase === 'silent' || state.phase === 'hearing' || state.phase === 'transmitting';
}

function transmit(state: LinkState, ms: number): Stepped<LinkState, LinkEffect> {
  if (!isStanding(state)) return [state, []];
  const then = state.phase === 'transmitting' ? state.then : state.phase;
  const { attempt } = state;
  return [{ phase: 'transmitting', attempt, then }, [start('transmit', ms)]];
}

function fail(state: LinkState, reason: LinkFailure, dice: number): Stepped<LinkState, LinkEffect> {
  if (state.phase === 'closed' || state.phase === 'failed') return [state, []];
  const attempt = state.attempt + 1;
  const retryInMs = waitBeforeRetryMs(attempt, dice);
  return [
    { phase: 'failed', reason, attempt, retryInMs },
    [...stopAll, { kind: 'disconnect' }, start('retry', retryInMs)],
  ];
}

function timedOut(state: LinkState, timer: string, dice: number): Stepped<LinkState, LinkEffect> {
  if (timer === 'retry' && state.phase === 'failed') return connect(state.attempt);
  if (timer === 'opening' && state.phase === 'opening') return fail(state, 'timed-out', dice);
  if (timer === 'transmit' && state.phase === 'transmitting')
    return [{ phase: state.then, attempt: state.attempt }, []];
  if (timer === 'quiet' && state.phase === 'hearing') return [{ ...state, phase: 'silent' }, []];
  if (timer === 'quiet' && state.phase === 'transmitting') return [{ ...state, then: 'silent' }, []];
  if (timer === 'settled' && isStanding(state)) return [{ ...state, attempt: 0 }, []];
  return [state, []];
}

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

/** dice: 0 to 1, so that many links do not knock at the same moment. */
export type LinkLifeEvent =
  | { readonly kind: 'open' }
  | { readonly kind: 'opened' }
  | { readonly kind: 'heard' }
  | { readonly kind: 'transmit'; readonly airTimeMs: number }
  | { readonly kind: 'failed'; readonly reason: LinkFailure; readonly dice: number }
  | { readonly kind: 'close' }
  | { readonly kind: 'timer'; readonly timer: LinkTimer; readonly dice: number };

export type LinkEffect =
  | { readonly kind: 'connect' }
  | { readonly kind: 'disconnect' }
  | { readonly kind: 'start'; readonly timer: LinkTimer; readonly ms: number }
  | { readonly kind: 'stop'; readonly timer: LinkTimer };

/** A Bluetooth serial port may block this long before it opens (common practice, no source). */
export const OPENING_LIMIT_MS = 30_000;
/** "TNC talks" fades after ten minutes without any frame. */
export const QUIET_AFTER_MS = 600_000;

/** A wire that has stood this long is not one that hangs up at once. */
export const SETTLED_AFTER_MS = 30_000;

const ALL_TIMERS: readonly LinkTimer[] = ['opening', 'retry', 'quiet', 'transmit', 'settled'];
const stopAll: readonly LinkEffect[] = ALL_TIMERS.map((timer) => ({ kind: 'stop', timer }));

export function step(state: LinkState, event: LinkLifeEvent): [LinkState, readonly LinkEffect[]] {
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
      return fail(state, event.reason, event.dice);
    case 'timer':
      return timedOut(state, event.timer, event.dice);
  }
}

function connect(attempt: number): [LinkState, readonly LinkEffect[]] {
  return [
    { phase: 'opening', attempt },
    [
      { kind: 'stop', timer: 'retry' },
      { kind: 'connect' },
      { kind: 'start', timer: 'opening', ms: OPENING_LIMIT_MS },
    ],
  ];
}

function opened(state: LinkState): [LinkState, readonly LinkEffect[]] {
  if (state.phase !== 'opening') return [state, []];
  return [
    { phase: 'silent', attempt: state.attempt },
    [
      { kind: 'stop', timer: 'opening' },
      { kind: 'start', timer: 'settled', ms: SETTLED_AFTER_MS },
    ],
  ];
}

function heard(state: LinkState): [LinkState, readonly LinkEffect[]] {
  const quiet: LinkEffect = { kind: 'start', timer: 'quiet', ms: QUIET_AFTER_MS };
  if (state.phase === 'silent' || state.phase === 'hearing') return [{ ...state, phase: 'hearing' }, [quiet]];
  if (state.phase === 'transmitting') return [{ ...state, then: 'hearing' }, [quiet]];
  return [state, []];
}

function isStanding(
  state: LinkState,
): state is Extract<LinkState, { phase: 'silent' | 'hearing' | 'transmitting' }> {
  return state.phase === 'silent' || state.phase === 'hearing' || state.phase === 'transmitting';
}

function transmit(state: LinkState, ms: number): [LinkState, readonly LinkEffect[]] {
  if (!isStanding(state)) return [state, []];
  const then = state.phase === 'transmitting' ? state.then : state.phase;
  const { attempt } = state;
  return [{ phase: 'transmitting', attempt, then }, [{ kind: 'start', timer: 'transmit', ms }]];
}

function fail(state: LinkState, reason: LinkFailure, dice: number): [LinkState, readonly LinkEffect[]] {
  if (state.phase === 'closed' || state.phase === 'failed') return [state, []];
  const attempt = state.attempt + 1;
  const retryInMs = waitBeforeRetryMs(attempt, dice);
  return [
    { phase: 'failed', reason, attempt, retryInMs },
    [...stopAll, { kind: 'disconnect' }, { kind: 'start', timer: 'retry', ms: retryInMs }],
  ];
}

function timedOut(state: LinkState, timer: LinkTimer, dice: number): [LinkState, readonly LinkEffect[]] {
  if (timer === 'retry' && state.phase === 'failed') return connect(state.attempt);
  if (timer === 'opening' && state.phase === 'opening') return fail(state, 'timed-out', dice);
  if (timer === 'transmit' && state.phase === 'transmitting')
    return [{ phase: state.then, attempt: state.attempt }, []];
  if (timer === 'quiet' && state.phase === 'hearing') return [{ ...state, phase: 'silent' }, []];
  if (timer === 'quiet' && state.phase === 'transmitting') return [{ ...state, then: 'silent' }, []];
  if (timer === 'settled' && isStanding(state)) return [{ ...state, attempt: 0 }, []];
  return [state, []];
}

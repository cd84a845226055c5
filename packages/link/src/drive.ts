import type { Clock } from './clock.js';

interface TimedEffect {
  readonly kind: string;
  readonly timer?: string;
  readonly ms?: number;
}

/** A running state machine: the one place where a step()'s timers become real. */
export interface Driven<State, Event> {
  state(): State;
  dispatch(event: Event): void;
  /** Stops every timer; the machine takes no more events. */
  end(): void;
}

/**
 * Runs a pure step. Effects `start` and `stop` are timers and handled here; every other effect goes to perform.
 * Events that arrive while one is being performed wait their turn.
 */
export function drive<State, Event, Effect extends TimedEffect>(
  step: (state: State, event: Event) => [State, readonly Effect[]],
  first: State,
  clock: Clock,
  timeoutOf: (timer: string) => Event,
  perform: (effect: Effect) => void,
  changed: (state: State) => void,
): Driven<State, Event> {
  let state = first;
  let ended = false;
  const timers = new Map<string, () => void>();
  const waiting: Event[] = [];
  let busy = false;

  const stop = (timer: string): void => {
    timers.get(timer)?.();
    timers.delete(timer);
  };
  const start = (timer: string, ms: number): void => {
    stop(timer);
    timers.set(
      timer,
      clock.after(ms, () => {
        timers.delete(timer);
        dispatch(timeoutOf(timer));
      }),
    );
  };
  const take = (event: Event): void => {
    const [next, effects] = step(state, event);
    const isNew = next !== state;
    state = next;
    for (const effect of effects) {
      if (effect.kind === 'start') start(effect.timer ?? '', effect.ms ?? 0);
      else if (effect.kind === 'stop') stop(effect.timer ?? '');
      else perform(effect);
    }
    if (isNew) changed(state);
  };
  function dispatch(event: Event): void {
    if (ended) return;
    waiting.push(event);
    if (busy) return;
    busy = true;
    try {
      for (let next = waiting.shift(); next !== undefined; next = waiting.shift()) take(next);
    } finally {
      busy = false;
    }
  }
  return {
    state: () => state,
    dispatch,
    end: () => {
      ended = true;
      for (const cancel of timers.values()) cancel();
      timers.clear();
    },
  };
}

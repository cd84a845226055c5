import type { Moment, Step, TimerEffect, TimerEvent } from './machine.js';

/** Time as a machine needs it: a real clock, or the timetable of a trial. */
export interface MachineClock {
  /** ms since any moment; never goes back. */
  upMs(): number;
  /** Calls once when so many ms have passed; the returned function cancels. */
  after(ms: number, call: () => void): () => void;
}

/** A running state machine: the one place where the timers of a step become real. */
export interface Driven<State, Event> {
  state(): State;
  dispatch(event: Event): void;
  /** Stops every timer; the machine takes no more events. */
  end(): void;
}

/** What a machine runs on, and who does what it asks for. */
export interface Driver<State, Effect, Context> {
  readonly clock: MachineClock;
  readonly dice?: () => number;
  /** What a step is to know besides the moment. */
  readonly context: (moment: Moment) => Context;
  /** Every effect but the timers. */
  readonly perform: (effect: Exclude<Effect, TimerEffect>) => void;
  readonly changed?: (state: State) => void;
  /** What is to be done about the first state. */
  readonly begin?: readonly Effect[];
}

/** Events that arrive while one is being carried out wait their turn. */
export function drive<State, Event, Effect extends { readonly kind: string }, Context>(
  step: Step<State, Event | TimerEvent, Effect, Context>,
  first: State,
  { clock, dice = () => 0, context, perform, changed, begin = [] }: Driver<State, Effect, Context>,
): Driven<State, Event> {
  let state = first;
  let ended = false;
  let busy = false;
  const timers = new Map<string, () => void>();
  const waiting: (Event | TimerEvent)[] = [];

  const stop = (timer: string): void => {
    timers.get(timer)?.();
    timers.delete(timer);
  };
  const start = (timer: string, ms: number): void => {
    stop(timer);
    const ring = (): void => {
      timers.delete(timer);
      dispatch({ kind: 'timer', timer });
    };
    timers.set(timer, clock.after(ms, ring));
  };
  const carryOut = (effect: Effect): void => {
    if (isStart(effect)) start(effect.timer, effect.ms);
    else if (isStop(effect)) stop(effect.timer);
    else perform(effect as Exclude<Effect, TimerEffect>);
  };
  const take = (event: Event | TimerEvent): void => {
    const [next, effects] = step(state, event, context({ atMs: clock.upMs(), dice: dice() }));
    const isNew = next !== state;
    state = next;
    for (const effect of effects) carryOut(effect);
    if (isNew) changed?.(state);
  };
  function dispatch(event: Event | TimerEvent): void {
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
  for (const effect of begin) carryOut(effect);
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

interface Named {
  readonly kind: string;
}
const isStart = (effect: Named): effect is Extract<TimerEffect, { kind: 'start' }> => effect.kind === 'start';
const isStop = (effect: Named): effect is Extract<TimerEffect, { kind: 'stop' }> => effect.kind === 'stop';

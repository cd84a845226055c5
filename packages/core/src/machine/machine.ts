/** What one step gives back: the state after the event, and what is to be done about it, in order. */
export type Stepped<State, Effect> = readonly [State, readonly Effect[]];

/**
 * The one shape of every state machine here: pure, without a clock, dice or timers of its own. The same state, event and
 * context give the same answer; what is to happen outside is told as effects.
 */
export type Step<State, Event, Effect, Context = Moment> = (
  state: State,
  event: Event,
  context: Context,
) => Stepped<State, Effect>;

/** When an event comes, in ms of a clock that only goes forward, and one throw of the dice for it, 0 ≤ dice < 1. */
export interface Moment {
  readonly atMs: number;
  readonly dice: number;
}

/** Timers are effects, one of each key at most: start replaces. What rings comes back as an event. */
export type TimerEffect<Timer extends string = string> =
  | { readonly kind: 'start'; readonly timer: Timer; readonly ms: number }
  | { readonly kind: 'stop'; readonly timer: Timer };

export interface TimerEvent<Timer extends string = string> {
  readonly kind: 'timer';
  readonly timer: Timer;
}

export const start = <Timer extends string>(timer: Timer, ms: number): TimerEffect<Timer> => ({
  kind: 'start',
  timer,
  ms,
});

export const stop = <Timer extends string>(timer: Timer): TimerEffect<Timer> => ({ kind: 'stop', timer });

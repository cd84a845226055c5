import { persistenceOf, USUAL_KISS_PARAMETERS, type KissParameters } from '../kiss/parameters.js';
import type { KissValueFrame } from '../kiss/commands.js';
import {
  start,
  stop,
  type Moment,
  type Stepped,
  type TimerEffect,
  type TimerEvent,
} from '../machine/machine.js';

/**
 * What a TNC does between the frames that it is given and the key of its radio (KISS paper, "Control of the KISS TNC" and the
 * p-persistence of its appendix). Pure: the owner listens, plays the sound and keeps the timers.
 *
 *   idle ──frame──> waiting ──clear, and the dice say so──> keyed ──played──> waiting or idle
 *
 * Frames that wait go out together in one over. The key is let go even if nobody says that the over was played.
 */
export interface LbtState {
  readonly access: KissParameters & { readonly isFullDuplex: boolean };
  /** Oldest first. */
  readonly waiting: readonly Uint8Array[];
  readonly isHeld: boolean;
  readonly phase: 'idle' | 'waiting' | 'keyed';
}

export const LBT_START: LbtState = {
  access: { ...USUAL_KISS_PARAMETERS, isFullDuplex: false },
  waiting: [],
  isHeld: false,
  phase: 'idle',
};

export type LbtEvent =
  | { readonly kind: 'frame'; readonly raw: Uint8Array }
  | { readonly kind: 'parameter'; readonly parameter: KissValueFrame }
  /** Somebody is on the channel, or nobody is any more. */
  | { readonly kind: 'channel'; readonly isHeld: boolean }
  /** The over began, and takes so long, tail and all. */
  | { readonly kind: 'begun'; readonly lastsMs: number }
  | { readonly kind: 'played' }
  /** Nothing more goes out; what is on the air is broken off. */
  | { readonly kind: 'silence' }
  | TimerEvent;

export type LbtEffect =
  | TimerEffect<'slot' | 'limit'>
  | { readonly kind: 'key'; readonly isDown: boolean }
  | {
      readonly kind: 'over';
      readonly frames: readonly Uint8Array[];
      readonly txDelayMs: number;
      readonly txTailMs: number;
    }
  /** It was to be on the air and is not: too many wait, or it was broken off. */
  | { readonly kind: 'lost'; readonly raw: Uint8Array; readonly reason: 'too many wait' | 'silenced' }
  /** What was being played is not played on. */
  | { readonly kind: 'break off' };

/** What a step is to know: how long a frame takes on the air. */
export interface LbtContext extends Moment {
  readonly airTimeMs: (raw: Uint8Array) => number;
}

export const MOST_WAITING = 64;
/** One over is bounded, as every transmission of ours; one frame always goes. */
export const LONGEST_OVER_MS = 30_000;
/** The key is let go so long after the over should have ended. */
export const KEY_LEEWAY_MS = 2000;

type Outcome = Stepped<LbtState, LbtEffect>;

export function step(state: LbtState, event: LbtEvent, context: LbtContext): Outcome {
  switch (event.kind) {
    case 'frame':
      return offered(state, event.raw, context);
    case 'parameter':
      return [{ ...state, access: withParameter(state.access, event.parameter) }, []];
    case 'channel': {
      const next = { ...state, isHeld: event.isHeld };
      return state.phase === 'waiting' && !event.isHeld && state.isHeld
        ? tryToSend(next, context)
        : [next, []];
    }
    case 'begun':
      return [state, state.phase === 'keyed' ? [start('limit', event.lastsMs + KEY_LEEWAY_MS)] : []];
    case 'played':
      return state.phase === 'keyed' ? released(state, []) : [state, []];
    case 'silence':
      return silenced(state);
    case 'timer':
      if (event.timer === 'limit')
        return state.phase === 'keyed' ? released(state, [{ kind: 'break off' }]) : [state, []];
      return state.phase === 'waiting' ? tryToSend(state, context) : [state, []];
  }
}

function offered(state: LbtState, raw: Uint8Array, context: LbtContext): Outcome {
  if (state.waiting.length >= MOST_WAITING) return [state, [{ kind: 'lost', raw, reason: 'too many wait' }]];
  const waiting = [...state.waiting, raw];
  if (state.phase !== 'idle') return [{ ...state, waiting }, []];
  return tryToSend({ ...state, waiting, phase: 'waiting' }, context);
}

/** In a clear channel with the chance that is set; else after another slot, or once the channel is free. */
function tryToSend(state: LbtState, { dice, airTimeMs }: LbtContext): Outcome {
  const { access, isHeld, waiting } = state;
  if (isHeld && !access.isFullDuplex) return [state, [stop('slot')]];
  if (!access.isFullDuplex && dice >= access.persistence) return [state, [start('slot', access.slotTimeMs)]];
  const count = fitting(waiting, access, airTimeMs);
  const { txDelayMs, txTailMs } = access;
  return [
    { ...state, waiting: waiting.slice(count), phase: 'keyed' },
    [
      stop('slot'),
      { kind: 'key', isDown: true },
      { kind: 'over', frames: waiting.slice(0, count), txDelayMs, txTailMs },
    ],
  ];
}

function fitting(
  waiting: readonly Uint8Array[],
  access: KissParameters,
  airTimeMs: LbtContext['airTimeMs'],
): number {
  let ms = access.txDelayMs + access.txTailMs;
  for (const [i, raw] of waiting.entries()) {
    ms += airTimeMs(raw);
    if (ms > LONGEST_OVER_MS) return Math.max(1, i);
  }
  return waiting.length;
}

/** Whoever else waits has the next slot first. */
function released(state: LbtState, effects: readonly LbtEffect[]): Outcome {
  const up: readonly LbtEffect[] = [...effects, { kind: 'key', isDown: false }, stop('limit')];
  if (state.waiting.length === 0) return [{ ...state, phase: 'idle' }, up];
  return [{ ...state, phase: 'waiting' }, [...up, start('slot', state.access.slotTimeMs)]];
}

function silenced(state: LbtState): Outcome {
  const lost = state.waiting.map((raw): LbtEffect => ({ kind: 'lost', raw, reason: 'silenced' }));
  const quiet: LbtState = { ...state, waiting: [], phase: 'idle' };
  if (state.phase !== 'keyed') return [quiet, [...lost, stop('slot')]];
  return [quiet, [{ kind: 'break off' }, { kind: 'key', isDown: false }, stop('limit'), ...lost]];
}

/** KISS paper: tens of milliseconds; p = (octet + 1) / 256; full duplex where the octet is not 0. */
function withParameter(access: LbtState['access'], { command, value }: KissValueFrame): LbtState['access'] {
  switch (command) {
    case 'txdelay':
      return { ...access, txDelayMs: 10 * value };
    case 'persistence':
      return { ...access, persistence: persistenceOf(value) };
    case 'slottime':
      return { ...access, slotTimeMs: 10 * value };
    case 'txtail':
      return { ...access, txTailMs: 10 * value };
    case 'fullduplex':
      return { ...access, isFullDuplex: value !== 0 };
  }
}

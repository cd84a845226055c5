import { start, stop, type Stepped, type TimerEffect, type TimerEvent } from '../machine/machine.js';
import { fieldsOf, fill, read } from './templates.js';

/** The words of a radio for its frequency; the band's name where its answer tells one. */
export interface RadioWords {
  /** {hz}, {khz} or {mhz} */
  readonly set: string;
  readonly ask: string;
  /** the same, and {band} */
  readonly frequencyIs: string;
}

/** Made up for this place; a real radio's words come from its documentation. */
export const NEUTRAL_RADIO_WORDS: RadioWords = {
  set: 'FREQ {hz:10}',
  ask: 'FREQ?',
  frequencyIs: 'FREQ {hz} BAND {band}',
};

/** Hz that two values may differ: what a display leaves out. */
const TOLERANCE_HZ = 500;
const ANSWER_MS = 3000;

export const whyNoRadioWords = ({ set, ask, frequencyIs }: RadioWords): string | undefined =>
  !hasFrequency(set)
    ? 'the command that sets has no {hz}, {khz} or {mhz}: a command without a frequency is none that belongs here'
    : ask.trim() === ''
      ? 'what was set must be read back: give the words that ask for it'
      : hasFrequency(frequencyIs)
        ? undefined
        : 'the answer has no {hz}, {khz} or {mhz}';

const hasFrequency = (template: string): boolean =>
  fieldsOf(template).some((name) => ['hz', 'khz', 'mhz'].includes(name));

/**
 *   before ── answer ──> setting ── asked again ──> set | wrong      silence in either: silent
 */
export interface TuningState {
  readonly phase: 'before' | 'setting' | 'set' | 'wrong' | 'silent';
  /** To put back afterwards. */
  readonly beforeHz?: number;
  readonly outcome?: string;
}

export type TuningEvent =
  | { readonly kind: 'opened' }
  | { readonly kind: 'line'; readonly text: string }
  | TimerEvent;

export type TuningEffect =
  | { readonly kind: 'command'; readonly text: string }
  | { readonly kind: 'done'; readonly phase: 'set' | 'wrong' | 'silent'; readonly outcome: string }
  | TimerEffect<'answer'>;

export interface TuningContext {
  readonly words: RadioWords;
  readonly wantedHz: number;
}

export const NOT_TUNED: TuningState = { phase: 'before' };

type Outcome = Stepped<TuningState, TuningEffect>;

export function tuningStep(
  state: TuningState,
  event: TuningEvent,
  { words, wantedHz }: TuningContext,
): Outcome {
  if (state.phase !== 'before' && state.phase !== 'setting') return [state, []];
  const ask: TuningEffect[] = [{ kind: 'command', text: words.ask }, start('answer', ANSWER_MS)];
  if (event.kind === 'opened') return [state, ask];
  if (event.kind === 'timer') return done(state, 'silent', 'the radio does not answer at its control port');
  const answer = read(words.frequencyIs, event.text);
  const hz = answer && hzOf(answer);
  if (hz === undefined) return [state, []];
  if (state.phase === 'before')
    return [
      { phase: 'setting', beforeHz: hz },
      [{ kind: 'command', text: fill(words.set, valuesOf(wantedHz)) }, ...ask],
    ];
  if (Math.abs(hz - wantedHz) <= TOLERANCE_HZ)
    return done(state, 'set', `the radio says ${shownMHz(hz)}${bandOf(answer)}`);
  const isUnmoved = state.beforeHz !== undefined && Math.abs(hz - state.beforeHz) <= TOLERANCE_HZ;
  return done(
    state,
    'wrong',
    `${shownMHz(wantedHz)} was asked for, and the radio says ${shownMHz(hz)}${bandOf(answer)}${isUnmoved ? ', as before: the command may have set its other band' : ''}`,
  );
}

function done(state: TuningState, phase: 'set' | 'wrong' | 'silent', outcome: string): Outcome {
  return [{ ...state, phase, outcome }, [stop('answer'), { kind: 'done', phase, outcome }]];
}

const bandOf = ({ band }: Record<string, string> = {}): string => (band ? ` on band ${band}` : '');
export const shownMHz = (hz: number): string => `${(hz / 1e6).toFixed(3)} MHz`;
const valuesOf = (hz: number): Record<string, number> => ({ hz, khz: hz / 1e3, mhz: hz / 1e6 });

function hzOf({ hz, khz, mhz }: Record<string, string>): number | undefined {
  const value =
    hz !== undefined
      ? Number(hz)
      : khz !== undefined
        ? Number(khz) * 1e3
        : mhz !== undefined
          ? Number(mhz) * 1e6
          : NaN;
  return Number.isFinite(value) && value > 0 ? Math.round(value) : undefined;
}

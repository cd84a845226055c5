import { start, stop, type Stepped, type TimerEffect, type TimerEvent } from '../machine/machine.js';
import { fill, read } from './templates.js';

/** The words of a modem program at its command port. Empty: it has no such word. */
export interface ModemWords {
  /** {call} */
  readonly setOwn: string;
  readonly askOwn: string;
  readonly ownIs: string;
  /** {from} {to} {tries} */
  readonly connect: string;
  readonly connected: string;
  readonly busy: string;
  readonly clear: string;
  /** {octets} that wait in the program */
  readonly buffer: string;
  readonly disconnect: string;
  readonly disconnected: string;
  readonly abort: string;
  /** {words}: what it says of a command that it refuses */
  readonly refused: string;
}

/** Made up for this place; a real program's words come from its documentation. */
export const NEUTRAL_WORDS: ModemWords = {
  setOwn: 'OWN {call}',
  askOwn: 'OWN?',
  ownIs: 'OWN IS {call}',
  connect: 'LINK {from} {to} {tries}',
  connected: 'LINKED {to}',
  busy: 'CHANNEL BUSY',
  clear: 'CHANNEL CLEAR',
  buffer: 'WAITING {octets}',
  disconnect: 'UNLINK',
  disconnected: 'UNLINKED',
  abort: 'DROP',
  refused: 'NO {words}',
};

/**
 *   opened ─> naming ── own call read back ──> calling ── connected ──> connected ── disconnect ──> closing ──> over
 *                 \── another call, silence: over              \── disconnected: over
 */
export type ModemPhase = 'naming' | 'calling' | 'connected' | 'closing' | 'over';

export interface ModemState {
  readonly phase: ModemPhase;
  readonly isBusy: boolean;
  /** Octets that wait in the program; undefined where it has not told. */
  readonly waiting?: number;
  readonly outcome?: string;
}

export type ModemEvent =
  | { readonly kind: 'opened' }
  | { readonly kind: 'line'; readonly text: string }
  | { readonly kind: 'disconnect' }
  | { readonly kind: 'abort' }
  | { readonly kind: 'lost' }
  | TimerEvent;

export type ModemEffect =
  | { readonly kind: 'command'; readonly text: string }
  | { readonly kind: 'connected' }
  /** All that we gave it has gone out. */
  | { readonly kind: 'buffer empty' }
  | { readonly kind: 'over'; readonly wasConnected: boolean; readonly outcome: string }
  | TimerEffect<'answer'>;

export interface ModemContext {
  readonly words: ModemWords;
  readonly own: string;
  readonly peer: string;
  readonly tries: number;
}

export const NOT_OPENED: ModemState = { phase: 'naming', isBusy: false };

const ANSWER_MS = 5000;
/** One try takes no longer than this (common practice, no source). */
const TRY_MS = 30_000;

type Outcome = Stepped<ModemState, ModemEffect>;

export function modemStep(state: ModemState, event: ModemEvent, context: ModemContext): Outcome {
  if (state.phase === 'over') return [state, []];
  const { words, own } = context;
  switch (event.kind) {
    case 'opened':
      return [
        state,
        [
          command(fill(words.setOwn, { call: own })),
          ...(words.askOwn === '' ? [] : [command(words.askOwn)]),
          start('answer', ANSWER_MS),
        ],
      ];
    case 'line':
      return heard(state, event.text, context);
    case 'disconnect':
      if (state.phase !== 'connected') return abort(state, words);
      return [{ ...state, phase: 'closing' }, [command(words.disconnect), start('answer', TRY_MS)]];
    case 'abort':
      return abort(state, words);
    case 'lost':
      return over(state, 'the modem program has closed its port');
    case 'timer':
      return over(state, SILENT[state.phase]);
  }
}

const SILENT: Readonly<Record<ModemPhase, string>> = {
  naming: 'the modem program does not say which call it has',
  calling: 'nobody answered',
  connected: 'nothing came',
  closing: 'the link was let go without an answer',
  over: '',
};

const command = (text: string): ModemEffect => ({ kind: 'command', text });

function over(state: ModemState, outcome: string): Outcome {
  const wasConnected = state.phase === 'connected' || state.phase === 'closing';
  return [{ ...state, phase: 'over', outcome }, [stop('answer'), { kind: 'over', wasConnected, outcome }]];
}

function abort(state: ModemState, words: ModemWords): Outcome {
  const [next, effects] = over(state, 'stopped');
  return [next, [command(words.abort === '' ? words.disconnect : words.abort), ...effects]];
}

function heard(state: ModemState, line: string, context: ModemContext): Outcome {
  const { words, peer } = context;
  const own = read(words.ownIs, line);
  if (own) return named(state, own.call ?? '', context);
  if (read(words.connected, line)) return connected(state, read(words.connected, line)?.to, peer);
  if (read(words.disconnected, line)) return disconnected(state);
  if (read(words.busy, line)) return [{ ...state, isBusy: true }, []];
  if (read(words.clear, line)) return [{ ...state, isBusy: false }, []];
  const waiting = Number(read(words.buffer, line)?.octets ?? NaN);
  if (Number.isInteger(waiting))
    return [{ ...state, waiting }, waiting === 0 && state.waiting !== 0 ? [{ kind: 'buffer empty' }] : []];
  const refused = read(words.refused, line);
  return refused ? over(state, `the modem program refused: ${refused.words ?? line}`) : [state, []];
}

const ENDED: Readonly<Partial<Record<ModemPhase, string>>> = {
  calling: 'nobody answered, or the other end is busy',
  connected: 'the other end has let the link go',
  closing: 'disconnected',
};

function disconnected(state: ModemState): Outcome {
  const outcome = ENDED[state.phase];
  return outcome === undefined ? [state, []] : over(state, outcome);
}

/** The call that the program has is the one that goes on the air: it is compared before anything is sent. */
function named(state: ModemState, call: string, { own, peer, words, tries }: ModemContext): Outcome {
  if (state.phase !== 'naming') return [state, []];
  const same = (text: string): string => text.toUpperCase().replace(/-0$/, '');
  if (same(call) !== same(own)) return over(state, `the modem program has the call ${call}, not ${own}`);
  return [
    { ...state, phase: 'calling' },
    [command(fill(words.connect, { from: own, to: peer, tries })), start('answer', TRY_MS * tries)],
  ];
}

function connected(state: ModemState, to: string | undefined, peer: string): Outcome {
  if (state.phase !== 'calling') return [state, []];
  if (to !== undefined && to !== '' && to.toUpperCase() !== peer.toUpperCase())
    return over(state, `the modem program is linked with ${to}, not with ${peer}`);
  return [{ ...state, phase: 'connected' }, [stop('answer'), { kind: 'connected' }]];
}

import { ADDRESS_OCTETS, HIGH } from '../ax25/address.js';
import { decodeAddressField, type Ax25Frame } from '../ax25/frame.js';
import { isMalformed } from '../bits/malformed.js';
import { toHex } from '../bits/octets.js';
import { start, type Moment, type Stepped, type TimerEffect, type TimerEvent } from '../machine/machine.js';
import { serve, type DigipeaterRules } from './service.js';

/** About 30 s, as the paradigm asks. */
export const USUAL_DUPLICATE_WINDOW_MS = 30_000;

/** repeated: key → time of the last copy, old keys are dropped on the way. waiting: what a viscous one holds back. */
export interface DigipeaterState {
  readonly repeated: ReadonlyMap<string, number>;
  readonly waiting: ReadonlyMap<string, Ax25Frame>;
}

export const IDLE_DIGIPEATER: DigipeaterState = { repeated: new Map(), waiting: new Map() };

export type DigipeaterEvent = { readonly kind: 'heard'; readonly frame: Ax25Frame } | TimerEvent;
export type DigipeaterEffect =
  | { readonly kind: 'repeat'; readonly frame: Ax25Frame }
  /** A timer of each frame that is held back, by its duplicateKey. */
  | TimerEffect;

export interface DigipeaterContext extends Pick<Moment, 'atMs'> {
  readonly rules: DigipeaterRules;
}

/** Source, destination and info: the path does not count, since each copy has another. */
export function duplicateKey(frame: Ax25Frame): string {
  return `${frame.source}>${frame.destination}:${toHex(frame.info)}`;
}

/**
 * One frame heard → the frame to repeat, if it is this station's turn (New n-N paradigm): the first unused entry must be
 * our call or an alias we serve; a copy within the window is not repeated again. Only a viscous one uses the timer.
 */
export function step(
  state: DigipeaterState,
  event: DigipeaterEvent,
  { atMs, rules }: DigipeaterContext,
): Stepped<DigipeaterState, DigipeaterEffect> {
  if (event.kind === 'timer') return release(state, event.timer, atMs, rules);
  const { frame } = event;
  const key = duplicateKey(frame);
  const last = state.repeated.get(key);
  if (last !== undefined && atMs - last < rules.duplicateWindowMs) return [state, []];
  // A second copy while we wait: somebody else was quicker, and this packet is done.
  if (state.waiting.has(key)) return [marked(state, key, atMs, rules), []];
  const service = serve(frame, rules);
  if ('refusal' in service) return [state, []];
  const repeated = { ...frame, path: service.path };
  if (rules.viscousMs === undefined)
    return [marked(state, key, atMs, rules), [{ kind: 'repeat', frame: repeated }]];
  const waiting = new Map([...state.waiting, [key, repeated]]);
  return [{ ...state, waiting }, [start(key, rules.viscousMs)]];
}

function release(
  state: DigipeaterState,
  key: string,
  atMs: number,
  rules: DigipeaterRules,
): Stepped<DigipeaterState, DigipeaterEffect> {
  const frame = state.waiting.get(key);
  return frame ? [marked(state, key, atMs, rules), [{ kind: 'repeat', frame }]] : [state, []];
}

/** In the order of time, so that what is too old stands in front. */
function marked(state: DigipeaterState, key: string, atMs: number, rules: DigipeaterRules): DigipeaterState {
  const repeated = new Map(state.repeated);
  for (const [other, time] of repeated) {
    if (atMs - time < rules.duplicateWindowMs) break;
    repeated.delete(other);
  }
  repeated.delete(key);
  repeated.set(key, atMs);
  if (!state.waiting.has(key)) return { repeated, waiting: state.waiting };
  const waiting = new Map(state.waiting);
  waiting.delete(key);
  return { repeated, waiting };
}

/**
 * A frame of any kind that asks for this call by name next: the same octets with its H bit set, else undefined.
 * Frames of a connection go this way, whose control field only the two ends can read.
 */
export function repeatByName(octets: Uint8Array, call: string): Uint8Array | undefined {
  const field = decodeAddressField(octets);
  if (isMalformed(field)) return undefined;
  const turn = field.path.findIndex(({ used }) => !used);
  if (field.path[turn]?.call !== call) return undefined;
  const repeated = octets.slice();
  const at = (3 + turn) * ADDRESS_OCTETS - 1;
  repeated[at] = (repeated[at] as number) | HIGH;
  return repeated;
}

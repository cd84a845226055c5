import { toHex } from '../bits/octets.js';
import { MOST_DIGIPEATERS, type Ax25Frame, type PathHop } from '../ax25/frame.js';
import { formatWideAlias, readWideAlias } from './alias.js';

/** fill-in: serves WIDE1-1 alone and puts its own call in its place; wide: serves every WIDEn-N. */
export interface DigipeaterRules {
  readonly call: string;
  readonly role: 'wide' | 'fill-in';
  readonly duplicateWindowMs: number;
}

/** About 30 s, as the paradigm asks. */
export const USUAL_DUPLICATE_WINDOW_MS = 30_000;

/** key → time of the last copy. Old keys are dropped on the way. */
export type DigipeaterState = ReadonlyMap<string, number>;

/** Source, destination and info: the path does not count, since each copy has another. */
export function duplicateKey(frame: Ax25Frame): string {
  return `${frame.source}>${frame.destination}:${toHex(frame.info)}`;
}

/**
 * One frame heard → the frame to repeat, if it is this station's turn (New n-N paradigm):
 * the first unused entry must be our call or an alias we serve; a copy within the window is not repeated again.
 */
export function step(
  state: DigipeaterState,
  frame: Ax25Frame,
  atMs: number,
  rules: DigipeaterRules,
): [DigipeaterState, Ax25Frame | undefined] {
  const key = duplicateKey(frame);
  const last = state.get(key);
  const isCopy = last !== undefined && atMs - last < rules.duplicateWindowMs;
  const path = isCopy || frame.source === rules.call ? undefined : repeatedPath(frame.path, rules);
  if (!path) return [state, undefined];
  const kept = [...state].filter(([, time]) => atMs - time < rules.duplicateWindowMs);
  return [new Map([...kept, [key, atMs]]), { ...frame, path }];
}

function repeatedPath(path: readonly PathHop[], rules: DigipeaterRules): PathHop[] | undefined {
  const turn = path.findIndex((hop) => !hop.used);
  const hop = path[turn];
  if (!hop) return undefined;
  const own = { call: rules.call, used: true };
  const before = path.slice(0, turn);
  const after = path.slice(turn + 1);
  if (hop.call === rules.call) return [...before, own, ...after];
  const alias = readWideAlias(hop.call);
  if (!alias || alias.left === 0 || alias.left > alias.n) return undefined;
  if (rules.role === 'fill-in') return turn === 0 && hop.call === 'WIDE1-1' ? [own, ...after] : undefined;
  const left = alias.left - 1;
  const rest = { call: formatWideAlias({ n: alias.n, left }), used: left === 0 };
  // Nothing is inserted where the path is full: the count goes down without a trace.
  return path.length >= MOST_DIGIPEATERS ? [...before, rest, ...after] : [...before, own, rest, ...after];
}

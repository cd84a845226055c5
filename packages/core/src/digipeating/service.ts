import { MOST_DIGIPEATERS, type Ax25Frame, type PathHop } from '../ax25/frame.js';
import { formatWideAlias, isObsoleteAlias, readAlias, readWideAlias } from './alias.js';

/** fill-in: serves WIDE1-1 alone and puts its own call in its place; wide: serves every WIDEn-N. */
export interface DigipeaterRules {
  readonly call: string;
  readonly role: 'wide' | 'fill-in';
  readonly duplicateWindowMs: number;
  /**
   * Viscous: waits so long, and repeats only what nobody else repeated meanwhile (common practice, no source). Left out:
   * at once, as the paradigm has it.
   */
  readonly viscousMs?: number;
  /** Serves its own call even where earlier entries are unused (common practice, no source). Off: the paradigm knows no such rule. */
  readonly preemptive?: boolean;
}

/** Why a digipeater lets a packet be. */
export type Refusal =
  | 'own packet'
  | 'no hop left'
  | 'another station named'
  | 'not an alias served here'
  | 'alias asks for too much'
  | 'fill-in serves the first hop only';

/** The path as it is repeated, or why it is not. */
export type Service = { readonly path: readonly PathHop[] } | { readonly refusal: Refusal };

/**
 * What one digipeater makes of a path (New n-N paradigm): the first unused entry must be its call or an alias that it serves;
 * its call is put before the alias, which counts down by one, and is used up at 0.
 */
export function serve({ source, path }: Pick<Ax25Frame, 'source' | 'path'>, rules: DigipeaterRules): Service {
  if (source === rules.call) return { refusal: 'own packet' };
  const next = path.findIndex((hop) => !hop.used);
  const named = path.findIndex((hop) => !hop.used && hop.call === rules.call);
  const turn = rules.preemptive && named >= 0 ? named : next;
  const hop = path[turn];
  if (!hop) return { refusal: 'no hop left' };
  const own = { call: rules.call, used: true };
  // Entries that were jumped over are used up.
  const before = path.slice(0, turn).map((earlier) => ({ ...earlier, used: true }));
  const after = path.slice(turn + 1);
  if (hop.call === rules.call) return { path: [...before, own, ...after] };
  const alias = readWideAlias(hop.call);
  if (!alias || alias.left === 0) return { refusal: strangeEntry(hop.call) };
  if (alias.left > alias.n) return { refusal: 'alias asks for too much' };
  if (rules.role === 'fill-in')
    return turn === 0 && hop.call === 'WIDE1-1'
      ? { path: [own, ...after] }
      : { refusal: 'fill-in serves the first hop only' };
  const left = alias.left - 1;
  const rest = { call: formatWideAlias({ n: alias.n, left }), used: left === 0 };
  // Nothing is inserted where the path is full: the count goes down without a trace.
  return {
    path: path.length >= MOST_DIGIPEATERS ? [...before, rest, ...after] : [...before, own, rest, ...after],
  };
}

const strangeEntry = (call: string): Refusal =>
  readAlias(call) || isObsoleteAlias(call) ? 'not an alias served here' : 'another station named';

import type { PathHop } from '../ax25/frame.js';
import { isInternetEntry, isObsoleteAlias, readWideAlias } from './alias.js';

/** One entry of a received path in words. */
export interface ExplainedHop extends PathHop {
  readonly meaning: string;
}

/** repeaters: who repeated it, in order, as far as the path tells; hops: how many repeats are behind it. */
export interface ExplainedPath {
  readonly hops: number;
  readonly repeaters: readonly string[];
  readonly entries: readonly ExplainedHop[];
  readonly summary: string;
}

/** What a received path says (New n-N paradigm; used = H bit). */
export function explainPath(path: readonly PathHop[]): ExplainedPath {
  const repeaters = path.filter(isRepeater).map(({ call }) => call);
  const untraced = path.some((hop) => hop.used && readWideAlias(hop.call)) && repeaters.length === 0 ? 1 : 0;
  const entries = path.map((hop, i) => ({ ...hop, meaning: meaningOf(path, i) }));
  return {
    hops: repeaters.length + untraced,
    repeaters,
    entries,
    summary: summarise(path, repeaters, untraced > 0),
  };
}

function isRepeater({ call, used }: PathHop): boolean {
  return used && !readWideAlias(call) && !isInternetEntry(call) && !isObsoleteAlias(call);
}

function meaningOf(path: readonly PathHop[], i: number): string {
  const { call, used } = path[i] as PathHop;
  if (isInternetEntry(call)) return 'tells of the internet, not of a repeater';
  if (isObsoleteAlias(call))
    return used ? 'an obsolete alias, used up' : 'an obsolete alias: hardly anyone serves it';
  const alias = readWideAlias(call);
  if (!alias) return used ? 'repeated it' : 'is asked by name, and has not repeated it yet';
  const by = path[i - 1];
  if (used) return by && isRepeater(by) ? `used up by ${by.call}` : 'used up, nobody signed for it';
  return `${alias.left} of ${alias.n} ${alias.n === 1 ? 'hop' : 'hops'} left`;
}

function summarise(path: readonly PathHop[], repeaters: readonly string[], untraced: boolean): string {
  const asked = path.filter((hop) => !hop.used);
  const left = asked.reduce((sum, { call }) => sum + (readWideAlias(call)?.left ?? 1), 0);
  const rest = left > 0 ? countHops(left) : path.length > 0 ? 'No hop is left.' : 'It asked for no repeat.';
  if (untraced) return `Repeated at least once, by nobody who signed. ${rest}`;
  if (repeaters.length === 0) return `Heard direct. ${rest}`;
  const named =
    repeaters.length === 1
      ? repeaters[0]
      : `${repeaters.slice(0, -1).join(', ')} and then ${repeaters.at(-1)}`;
  return `Not heard direct: ${named} repeated it. ${rest}`;
}

function countHops(count: number): string {
  return count === 1 ? 'One hop is left.' : `${count} hops are left.`;
}

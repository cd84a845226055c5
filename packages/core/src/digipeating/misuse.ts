import type { PathHop } from '../ax25/frame.js';
import { hopsAsked, isObsoleteAlias, isStationEntry, readAlias, readWideAlias } from './alias.js';
import { wayOf } from './way.js';

/** Something in a received path that goes against the published rule, at which entry, and what the rule says. */
export interface PathMisuse {
  readonly at: number;
  readonly text: string;
  readonly rule: string;
}

const RULE = 'New n-N paradigm';
/** Three hops reach across any region that has digipeaters; each more multiplies the copies (New n-N paradigm). */
export const MOST_HOPS = 3;

type Check = (hop: PathHop, at: number, path: readonly PathHop[]) => Omit<PathMisuse, 'at'> | undefined;

const CHECKS: readonly Check[] = [
  ({ call }) =>
    isObsoleteAlias(call)
      ? {
          text: `${call} is obsolete`,
          rule: `${RULE}: RELAY, WIDE and TRACE are no longer served; WIDE1-1 and WIDE2-1 took their place`,
        }
      : undefined,
  ({ call, used }) => {
    const alias = readAlias(call);
    if (!alias || used) return undefined;
    if (alias.left > alias.n)
      return {
        text: `${call} asks for more hops than its class has`,
        rule: `${RULE}: in WIDEn-N and SSn-N, N counts down from n at most`,
      };
    return alias.left === 0
      ? { text: `${call} asks for no hop`, rule: `${RULE}: N says how many hops are left` }
      : undefined;
  },
  ({ call }, at, path) => {
    const isLate = readWideAlias(call)?.n === 1 && path.slice(0, at).some((hop) => readWideAlias(hop.call));
    return isLate
      ? {
          text: `${call} stands behind another alias`,
          rule: `${RULE}: WIDE1-1 belongs first, since a fill-in repeats only what it hears direct`,
        }
      : undefined;
  },
  ({ call, used }, at, path) =>
    used && path.slice(0, at).some((hop) => !hop.used)
      ? {
          text: `${call} is marked as used, an entry before it is not`,
          rule: 'AX.25 v2.2: digipeaters act in order',
        }
      : undefined,
  ({ call, used }, at, path) => {
    const isTwice =
      used && isStationEntry(call) && path.slice(0, at).some((hop) => hop.used && hop.call === call);
    return isTwice
      ? {
          text: `${call} repeated it twice`,
          rule: `${RULE}: a digipeater repeats a packet once in about 30 s`,
        }
      : undefined;
  },
];

/** Everything that is wrong with a received path, entry by entry, then as a whole. */
export function listMisuse(path: readonly PathHop[]): PathMisuse[] {
  const found = path.flatMap((hop, at) =>
    CHECKS.flatMap((check) => {
      const misuse = check(hop, at, path);
      return misuse ? [{ at, ...misuse }] : [];
    }),
  );
  const hops = wayOf(path).hops + hopsAsked(path.filter(({ used }) => !used));
  if (hops <= MOST_HOPS) return found;
  const rule = `${RULE}: ${MOST_HOPS} hops are enough anywhere but in empty country; each more multiplies the copies`;
  return [...found, { at: path.length - 1, text: `it asks for ${hops} hops in all`, rule }];
}

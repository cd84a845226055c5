import type { PathHop } from '../ax25/frame.js';
import { isInternetEntry, isObsoleteAlias, readWideAlias } from './alias.js';
import { listMisuse, type PathMisuse } from './misuse.js';

/** One entry of a received path in words. */
export interface ExplainedHop extends PathHop {
  readonly meaning: string;
}

/** How the frame most likely came here: straight from its source, by way of digipeaters, or out of the internet. */
export type Origin = 'direct' | 'repeated' | 'internet';

/** repeaters: who repeated it, in order, as far as the path tells; hops: how many repeats are behind it. */
export interface ExplainedPath {
  readonly origin: Origin;
  readonly hops: number;
  readonly repeaters: readonly string[];
  readonly entries: readonly ExplainedHop[];
  readonly summary: string;
  /** What in it goes against the published rule. */
  readonly misuse: readonly PathMisuse[];
}

/** Who repeated it and how often: what every frame heard is asked. An alias used up without a call is one hop too. */
export function wayOf(path: readonly PathHop[]): { repeaters: readonly string[]; hops: number } {
  const repeaters: string[] = [];
  let isTraced = true;
  for (const hop of path) {
    if (!hop.used) continue;
    if (isRepeater(hop)) repeaters.push(hop.call);
    else if (readWideAlias(hop.call)) isTraced = false;
  }
  return { repeaters, hops: repeaters.length === 0 && !isTraced ? 1 : repeaters.length };
}

/**
 * What a received path says (New n-N paradigm; used = H bit). thirdParty: the packet inside is another station's, which
 * a gateway passed on; then the path is the gateway's way, and the inner station was not heard on radio.
 */
export function explainPath(
  path: readonly PathHop[],
  thirdParty?: { readonly source: string },
): ExplainedPath {
  const { repeaters, hops } = wayOf(path);
  const untraced = hops - repeaters.length;
  const isGated = thirdParty !== undefined || path.some((hop) => isInternetEntry(hop.call) && hop.used);
  return {
    origin: isGated ? 'internet' : hops > 0 ? 'repeated' : 'direct',
    hops,
    repeaters,
    entries: path.map((hop, i) => ({ ...hop, meaning: meaningOf(path, i) })),
    summary: summarise(path, repeaters, untraced > 0) + gatedWords(isGated, thirdParty),
    misuse: listMisuse(path),
  };
}

function isRepeater({ call, used }: PathHop): boolean {
  return used && !readWideAlias(call) && !isInternetEntry(call) && !isObsoleteAlias(call);
}

function meaningOf(path: readonly PathHop[], i: number): string {
  const { call, used } = path[i] as PathHop;
  if (isInternetEntry(call)) return INTERNET_MEANINGS[call] ?? 'tells of the internet, not of a repeater';
  if (isObsoleteAlias(call))
    return used ? 'an obsolete alias, used up' : 'an obsolete alias: hardly anyone serves it';
  const alias = readWideAlias(call);
  if (!alias) return used ? 'repeated it' : 'is asked by name, and has not repeated it yet';
  const by = path[i - 1];
  if (used) return by && isRepeater(by) ? `used up by ${by.call}` : 'used up, nobody signed for it';
  return `${alias.left} of ${alias.n} ${alias.n === 1 ? 'hop' : 'hops'} left`;
}

/** The internet service's own entries (public connection description of APRS-IS). */
const INTERNET_MEANINGS: Record<string, string> = {
  NOGATE: 'asks gateways not to pass it on',
  RFONLY: 'asks gateways to leave it on radio',
};

function gatedWords(isGated: boolean, thirdParty: { readonly source: string } | undefined): string {
  if (!isGated) return '';
  return thirdParty
    ? ` ${thirdParty.source} itself was not heard: a gateway passed its packet on.`
    : ' It came out of the internet: no proof of radio.';
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

import type { PathHop } from '../ax25/frame.js';
import {
  hopsAsked,
  isGatewayWish,
  isInternetEntry,
  isObsoleteAlias,
  isStationEntry,
  readAlias,
  readRegionalAlias,
} from './alias.js';
import { listMisuse, type PathMisuse } from './misuse.js';
import { wayOf } from './way.js';

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

/**
 * What a received path says (New n-N paradigm; used = H bit). thirdParty: the packet inside is another station's, which
 * a gateway passed on; then the path is the gateway's way, and the inner station was not heard on radio.
 */
export function explainPath(
  path: readonly PathHop[],
  thirdParty?: { readonly source: string },
): ExplainedPath {
  const { repeaters, hops } = wayOf(path);
  const isGated = thirdParty !== undefined || path.some((hop) => isInternetEntry(hop.call) && hop.used);
  const how = thirdParty ? gatewayHeard : isGated ? outOfInternet : heard;
  return {
    origin: isGated ? 'internet' : hops > 0 ? 'repeated' : 'direct',
    hops,
    repeaters,
    entries: path.map((hop, i) => ({ ...hop, meaning: meaningOf(path, i) })),
    summary: [how(repeaters, hops), hopsLeft(path), passedOn(thirdParty)].filter(Boolean).join(' '),
    misuse: listMisuse(path),
  };
}

function meaningOf(path: readonly PathHop[], i: number): string {
  const { call, used } = path[i] as PathHop;
  if (isGatewayWish(call)) return WISH_MEANINGS[callOf(call)] ?? 'asks something of gateways';
  if (isInternetEntry(call))
    return used
      ? 'tells of the internet, not of a repeater'
      : 'of the internet, and not used: it says nothing';
  if (isObsoleteAlias(call))
    return used ? 'an obsolete alias, used up' : 'an obsolete alias: hardly anyone serves it';
  const alias = readAlias(call);
  if (!alias) return used ? 'repeated it' : 'is asked by name, and has not repeated it yet';
  const by = path[i - 1];
  if (used)
    return by?.used && isStationEntry(by.call) ? `used up by ${by.call}` : 'used up, nobody signed for it';
  const where = readRegionalAlias(call) ? ', in its region only' : '';
  return `${alias.left} ${alias.left === 1 ? 'hop' : 'hops'} left${where}`;
}

const callOf = (entry: string): string => entry.replace(/-\d+$/, '');

/** What gateways are asked (public connection description of APRS-IS). */
const WISH_MEANINGS: Record<string, string> = {
  NOGATE: 'asks gateways not to pass it on',
  RFONLY: 'asks gateways to leave it on radio',
};

function heard(repeaters: readonly string[], hops: number): string {
  if (hops === 0) return 'Heard direct.';
  if (repeaters.length === 0) return `Repeated at least ${times(hops)}, by nobody who signed.`;
  return `Not heard direct: ${named(repeaters)} repeated it${unsigned(hops - repeaters.length)}.`;
}

/** It may have gone over radio after that, but it was not heard from its source. */
function outOfInternet(repeaters: readonly string[]): string {
  const then = repeaters.length > 0 ? ` Then ${named(repeaters)} repeated it.` : '';
  return `It came out of the internet: no proof of radio.${then}`;
}

function gatewayHeard(repeaters: readonly string[], hops: number): string {
  if (hops === 0) return 'The gateway was heard direct.';
  if (repeaters.length === 0) return `The gateway’s packet was repeated at least ${times(hops)}.`;
  return `The gateway’s packet was repeated by ${named(repeaters)}${unsigned(hops - repeaters.length)}.`;
}

function passedOn(thirdParty: { readonly source: string } | undefined): string {
  return thirdParty ? `${thirdParty.source} itself was not heard: a gateway passed its packet on.` : '';
}

function hopsLeft(path: readonly PathHop[]): string {
  const left = hopsAsked(path.filter((hop) => !hop.used));
  if (left > 0) return countHops(left);
  return path.some(({ call }) => readAlias(call) || isStationEntry(call))
    ? 'No hop is left.'
    : 'It asked for no repeat.';
}

const named = (repeaters: readonly string[]): string =>
  repeaters.length === 1
    ? (repeaters[0] as string)
    : `${repeaters.slice(0, -1).join(', ')} and then ${repeaters.at(-1)}`;

const unsigned = (count: number): string =>
  count === 0 ? '' : `, and ${count === 1 ? 'one' : count} more without signing`;

const times = (count: number): string => (count === 1 ? 'once' : `${count} times`);

function countHops(count: number): string {
  return count === 1 ? 'One hop is left.' : `${count} hops are left.`;
}

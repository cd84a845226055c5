import { callWithoutSsid, parseCallSign } from '../callsign/callsign.js';
import { isMalformed, malformed, type Malformed } from '../bits/malformed.js';
import { MOST_DIGIPEATERS, type PathHop } from '../ax25/frame.js';

/**
 * A path alias of the published "New n-N paradigm": WIDEn-N asks for repeats by any digipeater.
 * n (1–7) names the class, the hops it may ask for in all; N is how many are left.
 */
export interface WideAlias {
  readonly n: number;
  readonly left: number;
}

export function readWideAlias(call: string): WideAlias | undefined {
  if (!call.startsWith('WIDE')) return undefined;
  const match = /^WIDE([1-7])(?:-(\d{1,2}))?$/.exec(call);
  return match ? { n: Number(match[1]), left: Number(match[2] ?? 0) } : undefined;
}

export function formatWideAlias({ n, left }: WideAlias): string {
  return left === 0 ? `WIDE${n}` : `WIDE${n}-${left}`;
}

/**
 * A regional alias of the same paradigm, SSn-N: the two letters of a state, province or section before n. Only digipeaters
 * there serve it.
 */
export function readRegionalAlias(call: string): WideAlias | undefined {
  const match = /^[A-Z]{2}([1-7])(?:-([0-7]))?$/.exec(call);
  return match ? { n: Number(match[1]), left: Number(match[2] ?? 0) } : undefined;
}

/** An alias that counts its hops, of either kind. */
export function readAlias(call: string): WideAlias | undefined {
  return readWideAlias(call) ?? readRegionalAlias(call);
}

/** Aliases of earlier practice; the paradigm asks digipeaters to drop them. */
const OBSOLETE = ['RELAY', 'TRACE', 'WIDE', 'SPAN'];
/** Entries that say by which way it came; used, they tell of the internet. */
const INTERNET = ['TCPIP', 'TCPXX', 'IGATE'];
/** What gateways are asked; used or not, they say nothing of a way. */
const WISHES = ['NOGATE', 'RFONLY'];

export function isObsoleteAlias(call: string): boolean {
  const base = callWithoutSsid(call);
  return OBSOLETE.includes(base) || (base.startsWith('TRACE') && /^TRACE\d$/.test(base));
}

/** Tells of the internet, not of a repeater. */
export function isInternetEntry(call: string): boolean {
  return INTERNET.includes(callWithoutSsid(call));
}

/** A word to gateways, no station and no hop. */
export function isGatewayWish(call: string): boolean {
  return WISHES.includes(callWithoutSsid(call));
}

/** A station by its own call: no alias, and no word of or to the internet. */
export function isStationEntry(call: string): boolean {
  return !readAlias(call) && !isObsoleteAlias(call) && !isInternetEntry(call) && !isGatewayWish(call);
}

/** Reads an operator's path, `WIDE1-1,WIDE2-1`; empty text is a direct path. At most 8 entries, none marked used. */
export function parsePath(text: string): PathHop[] | Malformed {
  const trimmed = text.trim();
  if (trimmed === '') return [];
  const hops: PathHop[] = [];
  let at = 0;
  for (const entry of trimmed.split(',')) {
    const parsed = parseCallSign(entry);
    if (isMalformed(parsed)) return malformed(`path entry ${hops.length + 1}: ${parsed.malformed}`, at);
    hops.push({ call: entry.trim().toUpperCase().replace(/-0$/, ''), used: false });
    at += entry.length + 1;
  }
  if (hops.length > MOST_DIGIPEATERS) return malformed('a path has at most 8 entries');
  const misuse = pathMisuse(hops);
  return misuse === undefined ? hops : malformed(misuse);
}

export function formatPath(path: readonly PathHop[]): string {
  return path.map(({ call }) => call).join(',');
}

/** What no digipeater would serve as meant; undefined when the path is sound. */
export function pathMisuse(path: readonly PathHop[]): string | undefined {
  for (const [i, { call }] of path.entries()) {
    if (isObsoleteAlias(call))
      return `${call} is an obsolete alias that is no longer served: use WIDE1-1 or WIDE2-1`;
    const alias = readAlias(call);
    if (!alias) continue;
    const whole = `${callWithoutSsid(call)}-${alias.n}`;
    if (alias.left === 0) return `${call} asks for no hop: write ${whole}`;
    if (alias.left > alias.n) return `${call} asks for more hops than its class allows: at most ${whole}`;
    if (readWideAlias(call)?.n === 1 && i > 0)
      return 'WIDE1-1 belongs first: a fill-in station repeats only what it hears direct';
  }
  return undefined;
}

/** How many repeats these entries ask for; what is said of or to the internet asks for none. */
export function hopsAsked(path: readonly PathHop[]): number {
  return path.reduce((sum, { call }) => sum + hopsOf(call), 0);
}

function hopsOf(call: string): number {
  if (isInternetEntry(call) || isGatewayWish(call)) return 0;
  return readAlias(call)?.left ?? 1;
}

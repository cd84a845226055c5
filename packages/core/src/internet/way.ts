import { readInternetWay } from '../digipeating/internet-way.js';
import { callWithoutSsid } from '../callsign/callsign.js';

/** Whether a packet of the internet side was on the air, and who brought it in. */
export interface WayIn {
  readonly radio: 'yes' | 'perhaps' | 'no';
  readonly construct?: string;
  /** The gate or server. */
  readonly by?: string;
  readonly words: string;
}

/**
 * What the path of a packet on the internet side proves. A gate that is of one's own call, or TCPIP before the q construct,
 * proves no reach (public description of q constructs; the internet keeps only the first gate's copy).
 * licence: one's own call without SSID; empty: nobody's.
 */
export function wayIn(path: readonly string[], licence: string): WayIn {
  const way = readInternetWay(path);
  if (!way) return { radio: 'no', words: 'without a q construct: how it came in cannot be said' };
  const { construct, by, radio, meaning } = way;
  const before = path.slice(0, path.indexOf(construct));
  const named = { construct, ...(by === undefined ? {} : { by }) };
  if (before.some((entry) => /^TCP(?:IP|XX)$/.test(entry)))
    return { ...named, radio: 'no', words: 'TCPIP stands before the q construct: it began on the internet' };
  if (radio !== 'no' && by !== undefined && licence !== '' && callWithoutSsid(by) === licence)
    return { ...named, radio: 'no', words: `${by} is a gate of your own: it proves no reach` };
  return { ...named, radio, words: meaning };
}

/** How the packets of one station came: `7 of 40 by radio, all through QH3PRT-10; 33 by the internet alone`. */
export function waysInWords(ways: readonly WayIn[]): string {
  if (ways.length === 0) return 'nothing was seen of it on the internet side';
  const byRadio = ways.filter(({ radio }) => radio === 'yes');
  const perhaps = ways.filter(({ radio }) => radio === 'perhaps').length;
  const alone = ways.filter(({ radio }) => radio === 'no').length;
  const gates = [...new Set(byRadio.map(({ by }) => by ?? '?'))];
  const through =
    byRadio.length === 0
      ? ''
      : gates.length === 1
        ? `, ${byRadio.length === 1 ? '' : 'all '}through ${gates[0]}`
        : `, through ${gates.join(', ')}`;
  return [
    `${byRadio.length} of ${ways.length} by radio${through}`,
    ...(perhaps === 0 ? [] : [`${perhaps} perhaps, by receive-only gates`]),
    ...(alone === 0 ? [] : [`${alone} by the internet alone`]),
  ].join('; ');
}

/**
 * Which of one's ways the dots of a track come from, judged by their spacing: only a hint. ways: name and interval.
 * The median gap must lie within a fifth of one interval and of no other; with fewer than four gaps nothing is said.
 */
export function likelyWay(
  atMs: readonly number[],
  ways: readonly { readonly name: string; readonly everyMs: number }[],
): string | undefined {
  const gaps = atMs.slice(1).map((at, i) => at - (atMs[i] as number));
  if (gaps.length < FEWEST_GAPS) return undefined;
  const middle = [...gaps].sort((a, b) => a - b)[Math.floor(gaps.length / 2)] as number;
  const fitting = ways.filter(({ everyMs }) => Math.abs(middle - everyMs) <= everyMs / 5);
  return fitting.length === 1 ? fitting[0]?.name : undefined;
}
const FEWEST_GAPS = 4;

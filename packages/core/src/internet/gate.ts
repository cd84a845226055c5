import type { Ax25Frame } from '../ax25/frame.js';
import { NO_LAYER_3 } from '../ax25/frame.js';
import { formatHops } from '../ax25/monitor-text.js';
import { isMalformed } from '../bits/malformed.js';
import { fromLatin1, toLatin1 } from '../bits/octets.js';
import { parseInternetLine, type InternetPacket } from './line.js';
import { LONGEST_LINE } from './lines.js';

/** Why a packet heard on radio is not passed to the internet. */
export type NotIn =
  | 'no APRS packet'
  | 'it came from the internet (TCPIP)'
  | 'it came from the internet, unverified (TCPXX)'
  | 'its sender does not want it (NOGATE)'
  | 'its sender does not want it (RFONLY)'
  | 'a query to all'
  | 'too long'
  | 'our own'
  | 'a copy of what was passed on';

/** Why a packet of the internet is not put on the air. */
export type NotOut =
  | 'no message to a station'
  | 'its addressee was not heard on radio lately'
  | 'its addressee is too far away'
  | 'its addressee was heard by the internet'
  | 'its sender was heard on radio'
  | 'its sender is unverified (TCPXX)'
  | 'its sender does not want it (NOGATE)'
  | 'its sender does not want it (RFONLY)'
  | 'it does not fit'
  | 'too many in this minute'
  | 'a copy of what was sent';

const BARRED: readonly (readonly [string, NotIn])[] = [
  ['TCPIP', 'it came from the internet (TCPIP)'],
  ['TCPXX', 'it came from the internet, unverified (TCPXX)'],
  ['NOGATE', 'its sender does not want it (NOGATE)'],
  ['RFONLY', 'its sender does not want it (RFONLY)'],
];

export type GatedIn =
  | { readonly line: string; readonly packet: InternetPacket }
  | { readonly refused: NotIn };

/**
 * A packet from radio as it is passed to the internet (public description of gates: never TCPIP, TCPXX, NOGATE, RFONLY or
 * generic queries; a third-party packet is unwrapped, and its own path judged too). isBothWays: whether this gate puts messages
 * on the air too, which the q construct tells.
 */
export function gateIn(
  { source, destination, path, info, control, pid }: Ax25Frame,
  { gate, isBothWays }: { readonly gate: string; readonly isBothWays: boolean },
): GatedIn {
  if (control.kind !== 'UI' || pid !== NO_LAYER_3) return { refused: 'no APRS packet' };
  const text = toLatin1(info).replace(/[\r\n].*$/s, '');
  const barred = barrier(path.map(({ call }) => call));
  if (barred) return { refused: barred };
  if (source === gate) return { refused: 'our own' };
  if (text.startsWith('?')) return { refused: 'a query to all' };
  if (text.startsWith('}')) {
    const inner = parseInternetLine(text.slice(1));
    if (isMalformed(inner)) return { refused: 'no APRS packet' };
    const innerBarred = barrier(inner.path.map(({ call }) => call));
    if (innerBarred) return { refused: innerBarred };
    return passed(inner.source, inner.destination, inner.path, toLatin1(inner.info), gate, isBothWays);
  }
  return passed(source, destination, path, text, gate, isBothWays);
}

function passed(
  source: string,
  destination: string,
  path: Ax25Frame['path'],
  text: string,
  gate: string,
  isBothWays: boolean,
): GatedIn {
  if (text.startsWith('?')) return { refused: 'a query to all' };
  const construct = isBothWays ? 'qAR' : 'qAO';
  const line = `${source}>${destination}${formatHops(path)},${construct},${gate}:${text}`;
  if (line.length > LONGEST_LINE - 2) return { refused: 'too long' };
  return { line, packet: { source, destination, path, info: fromLatin1(text) } };
}

function barrier(path: readonly string[]): NotIn | undefined {
  return BARRED.find(([mark]) => path.includes(mark))?.[1];
}

/** What is known of a station when a message for it may be put on the air. Ages in ms; absent: not heard. */
export interface HeardOf {
  readonly radioAgeMs?: number;
  readonly radioHops?: number;
  readonly internetAgeMs?: number;
}

/** "Lately" and "near" are left to the gate's operator by the description; these are common practice, no source. */
export interface OutRules {
  readonly latelyMs: number;
  readonly mostHops: number;
}
export const USUAL_OUT_RULES: OutRules = { latelyMs: 30 * 60_000, mostHops: 2 };

/** Longest info field of a frame (AX.25 v2.2, 6.7.2.1, N1). */
const LONGEST_INFO = 256;

/**
 * A packet of the internet as this gate puts it on the air, or why not: only a message whose addressee was heard on radio
 * lately and near and not by the internet, whose sender was not heard on radio, and which no mark keeps off (public description
 * of gates). isPosition: the sender's next position after such a message, which is told too.
 */
export function gateOut(
  { source, destination, path, info }: InternetPacket,
  {
    gate,
    addressee,
    isPosition = false,
    of,
    rules = USUAL_OUT_RULES,
  }: {
    readonly gate: string;
    /** Of the message that it is; of the message that it follows, where it is the sender's position. */
    readonly addressee: string | undefined;
    readonly isPosition?: boolean;
    readonly of: (call: string) => HeardOf;
    readonly rules?: OutRules;
  },
): { readonly info: string } | { readonly refused: NotOut } {
  if (addressee === undefined) return { refused: 'no message to a station' };
  const calls = path.map(({ call }) => call);
  if (calls.includes('TCPXX') || calls.includes('qAX'))
    return { refused: 'its sender is unverified (TCPXX)' };
  if (calls.includes('NOGATE')) return { refused: 'its sender does not want it (NOGATE)' };
  if (calls.includes('RFONLY')) return { refused: 'its sender does not want it (RFONLY)' };
  const { radioAgeMs = Infinity, radioHops = Infinity, internetAgeMs = Infinity } = of(addressee);
  if (radioAgeMs > rules.latelyMs) return { refused: 'its addressee was not heard on radio lately' };
  if (radioHops > rules.mostHops) return { refused: 'its addressee is too far away' };
  if (internetAgeMs <= rules.latelyMs) return { refused: 'its addressee was heard by the internet' };
  if (!isPosition && (of(source).radioAgeMs ?? Infinity) <= rules.latelyMs)
    return { refused: 'its sender was heard on radio' };
  const wrapped = `}${source}>${destination},TCPIP,${gate}*:${toLatin1(info)}`;
  return wrapped.length > LONGEST_INFO ? { refused: 'it does not fit' } : { info: wrapped };
}

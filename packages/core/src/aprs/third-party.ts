import { isMalformed, malformed, type Malformed } from '../bits/malformed.js';
import { fromLatin1 } from '../bits/octets.js';
import type { AprsReport } from './report.js';

/** 1.0.1, "Third-party format": `}` and a whole packet as monitor text, `}SRC>DST,TCPIP,IGATE*:info`. */
const HEADER = /^\}([^>:,]{1,9})>([^>:,]{1,9})((?:,[^>:,]{1,10}){0,10}):/;
/** Deeper than any gateways have nested packets; an info field of 256 octets could hold fifty. */
const DEEPEST = 20;

export type ParseInner = (info: Uint8Array, destination: string, depth: number) => AprsReport;

/** Calls of the internet may have letters that AX.25 has not: they are kept as they are. */
export function readThirdParty(info: string, parse: ParseInner, depth: number): AprsReport | Malformed {
  const match = HEADER.exec(info);
  if (!match) return malformed('a third-party packet is }SRC>DST,PATH:info', 1);
  if (depth >= DEEPEST) return malformed('third-party packets are nested too deep');
  const [whole, source, destination, path] = match as unknown as [string, string, string, string];
  const report = parse(fromLatin1(info.slice(whole.length)), destination, depth + 1);
  if (isMalformed(report)) return report;
  return { type: 'third-party', thirdParty: { source, destination, path: path.split(',').slice(1), report } };
}

/** inner: the info of the packet inside. */
export function encodeThirdParty(
  source: string,
  destination: string,
  path: readonly string[],
  inner: string,
): string {
  return `}${[`${source}>${destination}`, ...path].join(',')}:${inner}`;
}

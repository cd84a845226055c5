import { isMalformed, malformed, type Malformed } from '../bits/malformed.js';
import { fromLatin1, toLatin1 } from '../bits/octets.js';
import { formatCallSign, parseCallSign } from '../callsign/callsign.js';
import { MOST_DIGIPEATERS, uiFrame, type Ax25Frame, type PathHop } from './frame.js';

/**
 * One-line monitor text, `SRC>DST,D1,D2*,WIDE2-1:info`. `*` stands at the last used hop and means
 * all before it too; SSID 0 is not written; info is one character per octet (common practice, no source).
 */
export function formatMonitorText(frame: Ax25Frame): string {
  const head = `${frame.source}>${frame.destination}${formatHops(frame.path)}`;
  if (frame.control.kind === 'UI') return `${head}:${toLatin1(frame.info)}`;
  const info = frame.info.length > 0 ? `:${toLatin1(frame.info)}` : '';
  return `${head} <${describeControl(frame)}>${info}`;
}

/** Each entry with its comma before it; the last used one bears the star. */
export function formatHops(path: readonly PathHop[]): string {
  const lastUsed = path.findLastIndex((hop) => hop.used);
  return path.map((hop, i) => `,${hop.call}${i === lastUsed ? '*' : ''}`).join('');
}

function describeControl({ control }: Ax25Frame): string {
  const numbers =
    'ns' in control ? ` S${control.ns} R${control.nr}` : 'nr' in control ? ` R${control.nr}` : '';
  return `${control.kind}${numbers}${control.pf ? ' P/F' : ''}`;
}

/** Reads a monitor line of one UI frame, one character per octet. */
export function parseMonitorText(line: string): Ax25Frame | Malformed {
  const colon = line.indexOf(':');
  if (colon < 0) return malformed('there is no ":" between header and info', line.length);
  const header = line.slice(0, colon);
  const arrow = header.indexOf('>');
  if (arrow < 0) return malformed('there is no ">" between source and destination', colon);
  const source = strictCall(header.slice(0, arrow), 0);
  if (isMalformed(source)) return source;
  const [destinationText = '', ...hops] = header.slice(arrow + 1).split(',');
  const destination = strictCall(destinationText, arrow + 1);
  if (isMalformed(destination)) return destination;
  const path = parsePathHops(hops, arrow + 2 + destinationText.length);
  if (isMalformed(path)) return path;
  const wide = /[^\u0000-\u00ff]/.exec(line.slice(colon + 1));
  if (wide) return malformed('a character is not one octet', colon + 1 + wide.index);
  return uiFrame(source, destination, path, fromLatin1(line.slice(colon + 1)));
}

/** `QH1ANR*`, `WIDE2-1` …: a star marks that hop and all before it as used. */
function parsePathHops(hops: readonly string[], at: number): PathHop[] | Malformed {
  if (hops.length > MOST_DIGIPEATERS) return malformed('more than 8 digipeaters', at);
  const lastUsed = hops.findLastIndex((hop) => hop.endsWith('*'));
  const path: PathHop[] = [];
  let offset = at;
  for (const [i, hop] of hops.entries()) {
    const call = strictCall(hop.replace(/\*$/, ''), offset);
    if (isMalformed(call)) return call;
    path.push({ call, used: i <= lastUsed });
    offset += hop.length + 1;
  }
  return path;
}

/** Small letters are refused here: on the air they cannot exist. */
function strictCall(text: string, at: number): string | Malformed {
  if (text !== text.toUpperCase() || text !== text.trim())
    return malformed(`"${text}" is not a call sign as AX.25 sends it`, at);
  const parsed = parseCallSign(text);
  return isMalformed(parsed) ? malformed(parsed.malformed, at + parsed.at) : formatCallSign(parsed);
}

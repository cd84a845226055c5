import type { PathHop } from '../ax25/frame.js';
import { isMalformed, malformed, type Malformed } from '../bits/malformed.js';
import { fromLatin1 } from '../bits/octets.js';

/** A packet as the internet service writes it; on the air it could not be sent as it stands. */
export interface InternetPacket {
  readonly source: string;
  readonly destination: string;
  readonly path: readonly PathHop[];
  readonly info: Uint8Array;
}

/** "Callsign": up to nine characters in all, letters and digits, perhaps a hyphen and one or two of them. */
const NAME = /^(?=.{1,9}$)[A-Za-z0-9]+(?:-[A-Za-z0-9]{1,2})?$/;
/** "q constructs". */
const CONSTRUCT = /^q[A-Z][A-Za-z]$/;
/** A line has at most 512 octets; a path of two-character entries has fewer than this. */
const MOST_ENTRIES = 170;

/** Reads `SRC>DST,PATH,qAR,GATE:info`, one character per octet. `*` marks that entry and all before it as used. */
export function parseInternetLine(line: string): InternetPacket | Malformed {
  const colon = line.indexOf(':');
  if (colon < 0) return malformed('there is no ":" between header and info', line.length);
  const header = line.slice(0, colon);
  const arrow = header.indexOf('>');
  if (arrow < 0) return malformed('there is no ">" between source and destination', colon);
  const source = header.slice(0, arrow);
  if (!NAME.test(source)) return malformed(`"${source}" is no name of the internet service`, 0);
  const [destination = '', ...entries] = header.slice(arrow + 1).split(',');
  if (!NAME.test(destination))
    return malformed(`"${destination}" is no name of the internet service`, arrow + 1);
  const path = readEntries(entries, arrow + 2 + destination.length);
  if (isMalformed(path)) return path;
  const wide = /[^\u0000-\u00ff]/.exec(line.slice(colon + 1));
  if (wide) return malformed('a character is not one octet', colon + 1 + wide.index);
  return { source, destination, path, info: fromLatin1(line.slice(colon + 1)) };
}

function readEntries(entries: readonly string[], at: number): PathHop[] | Malformed {
  if (entries.length > MOST_ENTRIES) return malformed('the path has too many entries', at);
  const lastUsed = entries.findLastIndex((entry) => entry.endsWith('*'));
  const path: PathHop[] = [];
  let offset = at;
  for (const [i, entry] of entries.entries()) {
    const call = entry.replace(/\*$/, '');
    if (!NAME.test(call) && !CONSTRUCT.test(call) && !isTrace(call))
      return malformed(`"${entry}" is no entry of a path`, offset);
    path.push({ call, used: i <= lastUsed });
    offset += entry.length + 1;
  }
  return path;
}

/** "qAI": servers sign with their addresses in hex. */
const isTrace = (call: string): boolean => /^[0-9A-F]{32}$/.test(call);

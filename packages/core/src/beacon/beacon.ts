import { isMalformed, malformed, type Malformed } from '../bits/malformed.js';
import { fromLatin1 } from '../bits/octets.js';
import { uiFrame, type Ax25Frame } from '../ax25/frame.js';
import { encodePositionReport } from '../aprs/position-report.js';
import type { AprsSymbol } from '../aprs/report.js';
import { formatCallSign, parseCallSign } from '../callsign/callsign.js';
import { parsePath } from '../digipeating/alias.js';
import type { Position } from '../geo/position.js';

/** Destination of our own packets: an experimental software identifier (1.0.1, "Generic APRS destination addresses"). */
export const OWN_DESTINATION = 'APZMPK';

/** What a fixed beacon says. source with SSID; path as typed, `WIDE1-1,WIDE2-1`. */
export interface FixedBeacon {
  readonly source: string;
  readonly position: Position;
  readonly symbol: AprsSymbol;
  readonly comment: string;
  readonly path: string;
  readonly compressed: boolean;
}

/** 1.0.1: 43 characters after a plain position, 40 after a compressed one. */
export function longestComment(compressed: boolean): number {
  return compressed ? 40 : 43;
}

/** Printable ASCII without `|` and `~`, which the reference reserves for TNC channel switching. */
export function parseComment(text: string, compressed = false): string | Malformed {
  const bad = /[^ -{}]/.exec(text);
  if (bad)
    return malformed(
      `"${bad[0]}" cannot be sent in a comment: use plain letters, digits and signs`,
      bad.index,
    );
  const longest = longestComment(compressed);
  if (text.length > longest) return malformed(`a comment has at most ${longest} characters here`, longest);
  return text;
}

/** The exact frame that goes out, or why there is none. */
export function beaconFrame(beacon: FixedBeacon): Ax25Frame | Malformed {
  const source = parseCallSign(beacon.source);
  if (isMalformed(source)) return source;
  const path = parsePath(beacon.path);
  if (isMalformed(path)) return path;
  const comment = parseComment(beacon.comment, beacon.compressed);
  if (isMalformed(comment)) return comment;
  const info = encodePositionReport(beacon.position, beacon.symbol, {
    comment,
    compressed: beacon.compressed,
  });
  return uiFrame(formatCallSign(source), OWN_DESTINATION, path, fromLatin1(info));
}

import { isMalformed, malformed, type Malformed } from '../bits/malformed.js';
import { formatCallSign, parseCallSign } from '../callsign/callsign.js';

/** AX.25 v2.2 allows two digipeaters in a connection; eight is what the address field carries (v2.0), and practice. */
const MOST_DIGIPEATERS = 8;

/** Digipeaters of a connection as they are typed, in order from here: calls between commas or spaces, `via` before them. */
export function parseVia(text: string): readonly string[] | Malformed {
  const words = text
    .trim()
    .replace(/^(?:via|v)\s+/i, '')
    .split(/[\s,]+/)
    .filter((word) => word !== '');
  if (words.length > MOST_DIGIPEATERS) return malformed('at most eight digipeaters');
  const calls: string[] = [];
  for (const word of words) {
    const call = parseCallSign(word);
    if (isMalformed(call)) return call;
    // An alias that counts down serves packets to nobody in particular; a connection needs its way back.
    if (/^(?:WIDE|TRACE)\d$/.test(call.call))
      return malformed(`${word} is a path of beacons: name the digipeaters themselves`);
    calls.push(formatCallSign(call));
  }
  if (new Set(calls).size < calls.length) return malformed('a digipeater stands there twice');
  return calls;
}

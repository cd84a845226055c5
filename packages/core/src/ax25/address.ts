import { malformed, isMalformed, type Malformed } from '../bits/malformed.js';
import { formatCallSign, parseCallSign } from '../callsign/callsign.js';

/**
 * One address subfield of AX.25 v2.2, "Address-field encoding": six octets of call, each shifted left one,
 * then the SSID octet, high bit first: C or H · R R · SSID · E.
 */
export interface Address {
  /** Call with SSID, `QH4MPK-7`; SSID 0 is not written. */
  readonly call: string;
  /** The top bit: C (command/response) for the two ends, H (has been repeated) for a digipeater. */
  readonly high: boolean;
  /** The two reserved bits, 3 when unused. */
  readonly reserved: number;
}

export const ADDRESS_OCTETS = 7;
const CALL_LENGTH = 6;
export const HIGH = 0x80;
const LAST = 0x01;
const SPACE = 0x20;

/** Writes the seven octets at `at`. Throws RangeError when the call is no call sign: that is a caller's mistake. */
export function writeAddress(
  into: Uint8Array,
  at: number,
  { call, high, reserved }: Address,
  last: boolean,
): void {
  const hyphen = call.indexOf('-');
  const length = hyphen < 0 ? call.length : hyphen;
  const ssid = hyphen < 0 ? 0 : Number(call.slice(hyphen + 1));
  let isCall = length >= 1 && length <= CALL_LENGTH && Number.isInteger(ssid) && ssid >= 0 && ssid <= 15;
  for (let i = 0; i < CALL_LENGTH; i++) {
    const code = i < length ? call.charCodeAt(i) : SPACE;
    isCall &&= i >= length || isCallCharacter(code);
    into[at + i] = code << 1;
  }
  if (!isCall) throw new RangeError(whyNot(call));
  into[at + CALL_LENGTH] = (high ? HIGH : 0) | (reserved << 5) | (ssid << 1) | (last ? LAST : 0);
}

function whyNot(call: string): string {
  const parsed = parseCallSign(call);
  return `${call}: ${isMalformed(parsed) ? parsed.malformed : 'a call sign is written in capitals'}`;
}

/** Reads the seven octets at `at`. */
export function decodeAddress(octets: Uint8Array, at: number): (Address & { last: boolean }) | Malformed {
  if (octets.length < at + ADDRESS_OCTETS) return malformed('the address field is cut short', octets.length);
  const call = callAt(octets, at);
  if (typeof call !== 'string') return call;
  const tail = octets[at + CALL_LENGTH] as number;
  return { call, high: (tail & HIGH) !== 0, reserved: (tail >> 5) & 3, last: (tail & LAST) !== 0 };
}

/** The calls on a channel are few: each is put together once. Octets → text, so nothing can become wrong with age. */
const known = new Map<number, string>();
const MOST_KNOWN = 4096;

function callAt(octets: Uint8Array, at: number): string | Malformed {
  let key = ((octets[at + CALL_LENGTH] as number) >> 1) & 15;
  // 52 bits at most: exact as a number.
  for (let i = at; i < at + CALL_LENGTH; i++) key = key * 256 + (octets[i] as number);
  const found = known.get(key);
  if (found !== undefined) return found;
  const call = readCall(octets, at);
  if (typeof call !== 'string') return call;
  if (known.size >= MOST_KNOWN) known.clear();
  known.set(key, call);
  return call;
}

function readCall(octets: Uint8Array, at: number): string | Malformed {
  let call = '';
  for (let i = at; i < at + CALL_LENGTH; i++) {
    const octet = octets[i] as number;
    if (octet & LAST) return malformed('the address field ends inside a call sign', i);
    const code = octet >> 1;
    if (code === SPACE) {
      const padded = onlySpaces(octets, i, at + CALL_LENGTH);
      if (padded !== true) return padded;
      break;
    }
    if (!isCallCharacter(code)) return malformed('a call sign has a character that is not A–Z or 0–9', i);
    call += String.fromCharCode(code);
  }
  if (call === '') return malformed('a call sign is empty', at);
  return formatCallSign({ call, ssid: ((octets[at + CALL_LENGTH] as number) >> 1) & 15 });
}

function onlySpaces(octets: Uint8Array, from: number, to: number): true | Malformed {
  for (let i = from; i < to; i++)
    if (octets[i] !== SPACE << 1) return malformed('a call sign has a gap in it', i);
  return true;
}

function isCallCharacter(code: number): boolean {
  return (code >= 0x30 && code <= 0x39) || (code >= 0x41 && code <= 0x5a);
}
